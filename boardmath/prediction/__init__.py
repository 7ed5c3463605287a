"""One module for each outcome; :mod:`boardmath.predictor` joins them."""
