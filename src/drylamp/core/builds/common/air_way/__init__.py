"""The way of air through a build: inlet, vent, chimney, fan."""
