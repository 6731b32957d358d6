"""Sites, their sun strip, weather files and yard over the wire."""
