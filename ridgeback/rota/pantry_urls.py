from django.urls import path

from ridgeback.rota import pantry_pages

app_name = "pantry"
urlpatterns = [
    path("", pantry_pages.shelf, name="shelf"),
    path("rooms/<int:pk>/receive/", pantry_pages.receive, name="receive"),
    path("rooms/<int:pk>/pantry.csv", pantry_pages.export, name="export"),
    path("rooms/<int:pk>/bring-in/", pantry_pages.bring_in, name="bring-in"),
    path("deliveries/<int:pk>/undo/", pantry_pages.undo, name="undo-delivery"),
    path("items/<int:pk>/", pantry_pages.change, name="change"),
]
