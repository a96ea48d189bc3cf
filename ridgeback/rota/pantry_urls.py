from django.urls import path

from ridgeback.rota import culture_pages, pantry_pages

app_name = "pantry"
urlpatterns = [
    path("", pantry_pages.shelf, name="shelf"),
    path("rooms/<int:pk>/receive/", pantry_pages.receive, name="receive"),
    path("rooms/<int:pk>/pantry.csv", pantry_pages.export, name="export"),
    path("rooms/<int:pk>/bring-in/", pantry_pages.bring_in, name="bring-in"),
    path("deliveries/<int:pk>/undo/", pantry_pages.undo, name="undo-delivery"),
    path("rooms/<int:pk>/freezer/", pantry_pages.freezer_room, name="freezer"),
    path("cultures/", culture_pages.cultures, name="cultures"),
    path("rooms/<int:pk>/cultures/", culture_pages.begin, name="begin-culture"),
    path("cultures/<int:pk>/", culture_pages.change, name="change-culture"),
    path("rooms/<int:pk>/gut-loads/", culture_pages.keep_mix, name="keep-gut-load"),
    path("gut-loads/<int:pk>/remove/", culture_pages.remove_mix, name="remove-gut-load"),
    path("items/<int:pk>/", pantry_pages.change, name="change"),
]
