from django.urls import path

from ridgeback.archive import pages

app_name = "archive"
urlpatterns = [
    path("rooms/<int:pk>/archive/", pages.take_out, name="take-out"),
    path("archive/bring-in/", pages.bring_in, name="bring-in"),
    path("archive/files/<int:pk>/", pages.archive_file, name="file"),
    path("rooms/<int:pk>/delete/", pages.delete_room, name="delete-room"),
    path("habitats/<int:pk>/delete/", pages.delete_habitat, name="delete-habitat"),
    path("animals/<int:pk>/delete/", pages.delete_animal, name="delete-animal"),
    path("deletions/<int:pk>/keep/", pages.keep, name="keep"),
    path("account/delete/", pages.delete_account, name="delete-account"),
]
