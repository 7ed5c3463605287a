"""One module a phenomenon: scalar functions in SI units, compiled. Knows no build file and no array of boards."""
