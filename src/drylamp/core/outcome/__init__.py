"""What a person, a screen or a program wants to know of a run."""
