"""Rides as they are written down: the open file, tracks, guided tests, sums."""
