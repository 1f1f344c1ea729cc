"""A squad's season, ahead."""
