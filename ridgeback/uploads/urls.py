from django.urls import path

from ridgeback.uploads import pages

app_name = "uploads"
urlpatterns = [
    path("rooms/<int:pk>/uploads/", pages.begin, name="begin"),
    path("uploads/", pages.begin_mine, name="begin-mine"),
    path("uploads/<int:pk>/", pages.parts, name="parts"),
]
