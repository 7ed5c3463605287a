"""The server's settings for browser tests: as everywhere, but for passwords that are hashed fast."""

from server.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
