"""Side by side: builds, variants and trials on one sun."""
