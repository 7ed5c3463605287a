from django.apps import AppConfig


class BenchTestConfig(AppConfig):
    name = "server.bench_test"
    label = "benchtests"  # The tables began under this label, and stay where they are.
