"""Trips: how far the charge carries, leg by leg, and what helps."""
