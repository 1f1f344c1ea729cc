"""The demo: an invented club, from a fixed seed."""
