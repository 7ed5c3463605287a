"""Putting a board together: the steps of this very build, in an order that works."""
