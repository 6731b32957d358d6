"""Water that goes round between what the sun heats and where it is kept."""
