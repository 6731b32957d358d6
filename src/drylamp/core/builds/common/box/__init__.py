"""The glazed box."""
