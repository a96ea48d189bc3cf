from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "ridgeback.accounts"
    label = "accounts"
