"""Typed readers and writers of the open formats. Knows the core only."""
