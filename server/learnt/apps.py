from django.apps import AppConfig


class LearntConfig(AppConfig):
    name = "server.learnt"
    label = "learnt"
