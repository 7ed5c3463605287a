"""A box to make: what it has to be for this deck and what goes into it, as a solid, as a flat pattern, and its foam."""
