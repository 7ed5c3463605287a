"""The first ride, guided: what has to be so before, the first metres, speed in steps, what is looked at and written down."""
