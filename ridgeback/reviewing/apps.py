from django.apps import AppConfig


class ReviewingConfig(AppConfig):
    name = "ridgeback.reviewing"
