"""The application as web servers start it."""

import os

from django.core.wsgi import get_wsgi_application

from boardmath.buildfile import read_build
from boardmath.fit.shapes import VIEWS
from boardmath.fit.views import draw
from boardmath.report import predict

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
application = get_wsgi_application()

# The first request would otherwise wait for the sampling, the solvers and the geometry to be loaded.
_ANY = read_build(
    {
        "format": "sand-pocket/build",
        "version": 1,
        "rider": {"mass_kg": 75},
        "parts": {
            "wheels": {"diameter_mm": 90},
            "motors": {"count": 1, "kv_rpm_per_v": 170},
            "drive": {"motor_teeth": 16, "wheel_teeth": 40},
            "pack": {"series": 10},
        },
    }
)
predict(_ANY)
for view in VIEWS:
    draw(_ANY, view)
