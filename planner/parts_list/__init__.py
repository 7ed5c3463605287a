"""The parts list: its lines and sums, and the small parts that are forgotten."""
