"""Air as a substance: moist air, its properties, and what drives it through an opening."""
