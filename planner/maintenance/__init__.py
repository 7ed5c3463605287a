"""Maintenance: what is due on a ridden board, by kilometres, days and wet rides."""
