"""The tests count with one numeric thread, as the server does: several workers of pytest share the cores."""

import server  # noqa: F401
