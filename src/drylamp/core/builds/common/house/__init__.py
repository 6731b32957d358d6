"""The house that the yard belongs to: what heat costs there, and when somebody is at home."""
