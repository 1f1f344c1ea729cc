"""A whole club as one file, and back."""
