from django.apps import AppConfig


class ElectricsConfig(AppConfig):
    name = "ridgeback.electrics"
