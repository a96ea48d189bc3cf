import gc

from django.apps import AppConfig


class HomeConfig(AppConfig):
    name = "ridgeback.home"
    label = "home"

    def ready(self) -> None:
        gc.enable()  # manage.py and wsgi.py load all of this without it: a seventh of the time
