"""The board to scale: the same geometry as the findings of fit, in four views."""
