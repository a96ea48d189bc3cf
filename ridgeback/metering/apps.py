from django.apps import AppConfig


class MeteringConfig(AppConfig):
    name = "ridgeback.metering"
