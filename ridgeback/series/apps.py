from django.apps import AppConfig


class SeriesConfig(AppConfig):
    name = "ridgeback.series"
