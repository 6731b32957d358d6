"""Food dryers."""
