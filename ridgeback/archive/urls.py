from django.urls import path

from ridgeback.archive import pages

app_name = "archive"
urlpatterns = [
    path("rooms/<int:pk>/archive/", pages.take_out, name="take-out"),
    path("archive/bring-in/", pages.bring_in, name="bring-in"),
    path("archive/files/<int:pk>/", pages.archive_file, name="file"),
    path("account/delete/", pages.delete_account, name="delete-account"),
]
