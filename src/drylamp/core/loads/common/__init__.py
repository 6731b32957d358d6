"""What loads share."""
