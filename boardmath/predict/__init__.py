"""One module a promise; :mod:`boardmath.predict.report` joins them."""
