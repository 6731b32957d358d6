"""Food on the trays of a dryer."""
