from django.apps import AppConfig


class BookConfig(AppConfig):
    name = "ridgeback.book"
    label = "book"
