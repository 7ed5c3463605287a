"""What these tests share with those of the server: people with workshops of their own, and passwords that are hashed fast."""

from tests.server.conftest import library, other_workshop, quick_passwords, workshop

__all__ = ["library", "other_workshop", "quick_passwords", "workshop"]
