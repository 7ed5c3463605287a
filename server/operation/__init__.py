"""What an operator does: sweep, back up, bring back."""
