from django.apps import AppConfig


class ControllerSettingsConfig(AppConfig):
    name = "server.controller_settings"
    label = "sheets"  # The tables began under this label, and stay where they are.
