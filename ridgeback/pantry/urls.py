from django.urls import path

from ridgeback.pantry import pages

app_name = "pantry"
urlpatterns = [
    path("", pages.shelf, name="shelf"),
    path("rooms/<int:pk>/receive/", pages.receive, name="receive"),
    path("rooms/<int:pk>/pantry.csv", pages.export, name="export"),
    path("rooms/<int:pk>/bring-in/", pages.bring_in, name="bring-in"),
    path("deliveries/<int:pk>/undo/", pages.undo, name="undo-delivery"),
    path("items/<int:pk>/", pages.change, name="change"),
]
