"""The application as web servers start it."""

import os

from django.core.wsgi import get_wsgi_application

from boardmath.bench.report import predict
from boardmath.compiling import any_board
from boardmath.drawings.views import draw
from boardmath.fit.shapes import VIEWS

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
application = get_wsgi_application()

# The first request would otherwise wait for the engine, the sampling and the geometry to be loaded.
_ANY = any_board()
predict(_ANY)
for view in VIEWS:
    draw(_ANY, view)
