"""What a change of a ladder means for those who are on it."""
