"""What loads and builds share: walls of layers, pipes, how pumps and fans are driven."""
