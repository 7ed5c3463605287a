from django.apps import AppConfig


class AssemblyConfig(AppConfig):
    name = "server.assembly"
    label = "assembly"
