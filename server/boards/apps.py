from django.apps import AppConfig


class BoardsConfig(AppConfig):
    name = "server.boards"
    label = "workshop"  # The tables began under this label, and stay where they are.
