"""A simulated controller: the device's own memory and limits, with the core's physics behind it."""
