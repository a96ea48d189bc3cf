from django.apps import AppConfig


class DaybookConfig(AppConfig):
    name = "ridgeback.daybook"
    label = "daybook"
