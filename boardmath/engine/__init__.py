"""The engine: one board at one moment in scalar functions, and loops over many boards.

Every kernel sees one board, a row of a record array (:mod:`boardmath.engine.boards`); the loops of
:mod:`boardmath.engine.sweeps` go over builds, samples and candidates alike.
"""
