"""Food as a substance: what dries out of it, how fast, and what it settles at."""
