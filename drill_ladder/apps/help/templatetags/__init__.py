"""Tags of help."""
