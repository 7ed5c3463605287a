"""The balance wires: what each tap has to show, and what it means when one shows something else."""
