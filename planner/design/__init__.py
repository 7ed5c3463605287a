"""What the bench shows of a build: the whole prediction, what a part would change, boards from a brief."""
