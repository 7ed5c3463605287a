"""One module a phenomenon: pure functions over arrays in SI units. Knows no build file."""
