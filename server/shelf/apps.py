from django.apps import AppConfig


class ShelfConfig(AppConfig):
    name = "server.shelf"
    label = "workshop"  # The tables began under this label, and stay where they are.
