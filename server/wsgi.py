"""The application as web servers start it."""

import os

from django.core.wsgi import get_wsgi_application

from boardmath.predict.bands import standard_normal

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "server.settings")
application = get_wsgi_application()

# The first prediction would otherwise wait for SciPy's sampling to be imported.
standard_normal(1)
