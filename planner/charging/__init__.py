"""Charging: when to plug in, does the charger fit, the first charge under watch, what the ceiling costs and gives."""
