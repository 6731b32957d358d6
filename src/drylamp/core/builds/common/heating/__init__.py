"""What is said of everything that heats a load."""
