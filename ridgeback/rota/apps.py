from django.apps import AppConfig


class RotaConfig(AppConfig):
    name = "ridgeback.rota"
    label = "rota"
