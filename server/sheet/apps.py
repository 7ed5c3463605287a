from django.apps import AppConfig


class SheetConfig(AppConfig):
    name = "server.sheet"
    label = "sheets"  # The tables began under this label, and stay where they are.
