from django.apps import AppConfig


class KeepingConfig(AppConfig):
    name = "ridgeback.keeping"
    label = "keeping"
