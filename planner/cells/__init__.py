"""A bag of measured cells: read, judged, sorted into groups, and what comes of it."""
