"""The web: thin views over the core and the store."""
