"""A box to make: what it will be, and the files to make it from."""
