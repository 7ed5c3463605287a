from django.apps import AppConfig


class ControllerConfig(AppConfig):
    name = "server.controller"
    label = "link"  # The tables began under this label, and stay where they are.
