"""Numbers in, SVG text out. Charts know the core only."""
