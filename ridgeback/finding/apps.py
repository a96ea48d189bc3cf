from django.apps import AppConfig


class FindingConfig(AppConfig):
    name = "ridgeback.finding"
