"""The whole yard as one file, over the wire and from the command line."""
