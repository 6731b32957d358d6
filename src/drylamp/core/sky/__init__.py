"""Where the sun stands, what the sky gives, and what the place takes away of it."""
