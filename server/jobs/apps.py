from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "server.jobs"
    label = "jobs"

    def ready(self) -> None:
        from server.jobs import wake_ups  # noqa: F401 - listens to what is enqueued
