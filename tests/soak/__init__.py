"""What must not be lost however the server ends: short forms run with all tests, ``make soak`` runs them in full."""
