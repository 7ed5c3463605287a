"""Steps of a work beside the board: what a step is, in which order steps go, what was written down of them, and how they
stand.
"""
