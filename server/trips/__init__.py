"""Trips: planned, on a card for the pocket, held against the rides that they became."""
