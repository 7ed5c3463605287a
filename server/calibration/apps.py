from django.apps import AppConfig


class CalibrationConfig(AppConfig):
    name = "server.calibration"
    label = "learnt"
