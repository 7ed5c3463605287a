"""Maintenance: what is due on a ridden board, and what was done."""
