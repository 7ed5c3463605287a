"""One module a promise; :mod:`boardmath.predictor` joins them."""
