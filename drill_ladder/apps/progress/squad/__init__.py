"""A squad's progress."""
