"""What kinds of build share, part by part."""
