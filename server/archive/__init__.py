"""All that a person has, as one file of open forms; and back in, here or elsewhere."""
