from django.apps import AppConfig


class PantryConfig(AppConfig):
    name = "ridgeback.pantry"
    label = "pantry"
