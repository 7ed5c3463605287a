"""One module a promise; :mod:`boardmath.bench.report` joins them."""
