from django.apps import AppConfig


class ArchiveConfig(AppConfig):
    name = "ridgeback.archive"
