from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "plinto_server.apps.accounts"
    label = "accounts"
