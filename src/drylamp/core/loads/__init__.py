"""What goes into a build."""
