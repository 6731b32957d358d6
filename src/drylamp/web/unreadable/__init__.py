"""What cannot be read any more, over the wire."""
