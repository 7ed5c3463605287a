"""The explorer: every board that can be made of what is left open."""
