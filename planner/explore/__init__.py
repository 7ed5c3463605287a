"""Which board at all: every board that can be made of what is left open, against the brief."""
