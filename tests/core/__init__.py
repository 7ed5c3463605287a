"""The core's tests: the same random examples every time, and no clock over them."""

from hypothesis import settings

settings.register_profile("sand-pocket", max_examples=60, deadline=None, derandomize=True)
settings.load_profile("sand-pocket")
