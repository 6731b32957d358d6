"""The lumber kiln: a chamber under a glazed roof that dries boards."""
