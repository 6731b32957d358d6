"""Files in and out: open formats only."""
