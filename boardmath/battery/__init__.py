"""The balance leads: what each lead has to show, and what it means when one shows something else."""
