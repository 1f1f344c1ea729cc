"""Settings: base for everybody; dev (the demo), test and prod on top."""
