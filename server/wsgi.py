"""The application as web servers start it."""

import gc
import os

from django.core.wsgi import get_wsgi_application

from boardmath.geometry.shapes import VIEWS
from boardmath.geometry.views.view import draw
from boardmath.predictor import predict
from planner.warm_cache import any_board

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
application = get_wsgi_application()

# The first request would otherwise wait for the engine, the sampling and the geometry to be loaded.
_ANY = any_board()
predict(_ANY)
for view in VIEWS:
    draw(_ANY, view)

# What is loaded by now stays: looking through it for garbage again and again took a third of a table of candidates' time.
gc.collect()
gc.freeze()
gc.set_threshold(50_000, 20, 20)
