from django.apps import AppConfig


class AccountConfig(AppConfig):
    name = "server.account"
    label = "accounts"  # The tables began under this label, and stay where they are.
