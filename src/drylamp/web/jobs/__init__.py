"""Long answers over the wire: begun, looked at, stopped."""
