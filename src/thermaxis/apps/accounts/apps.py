from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "thermaxis.apps.accounts"
    label = "accounts"
