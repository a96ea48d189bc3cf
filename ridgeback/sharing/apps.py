from django.apps import AppConfig


class SharingConfig(AppConfig):
    name = "ridgeback.sharing"
