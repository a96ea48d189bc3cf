from django.urls import path

from ridgeback.book import views

app_name = "book"
urlpatterns = [
    path("", views.shelf, name="shelf"),
    path("<slug:species>/", views.sheet, name="sheet"),
]
