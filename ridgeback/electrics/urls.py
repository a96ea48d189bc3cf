from django.urls import path

from ridgeback.electrics import habitat_pages, pages

app_name = "electrics"
urlpatterns = [
    path("rooms/<int:pk>/electrics/", pages.room, name="room"),
    path("rooms/<int:pk>/electrics/paper/", pages.on_paper, name="paper"),
    path("habitats/<int:pk>/electrics/", habitat_pages.habitat, name="habitat"),
]
