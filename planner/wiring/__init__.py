"""The way of the current: every wire with its gauge, length and plugs, drawn; what guards against what; the order of joining."""
