from django.apps import AppConfig


class PlannerConfig(AppConfig):
    name = "ridgeback.planner"
    label = "planner"
