from django.apps import AppConfig


class RidesConfig(AppConfig):
    name = "server.rides"
    label = "rides"
