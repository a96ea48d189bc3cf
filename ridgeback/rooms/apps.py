from django.apps import AppConfig


class RoomsConfig(AppConfig):
    name = "ridgeback.rooms"
    label = "rooms"
