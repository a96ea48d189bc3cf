from django.apps import AppConfig


class HomeConfig(AppConfig):
    name = "ridgeback.home"
    label = "home"
