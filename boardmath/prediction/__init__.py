"""One module a promise; :mod:`boardmath.report` joins them."""
