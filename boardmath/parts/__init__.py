"""Parts: their types, what follows from choosing one, cost."""
