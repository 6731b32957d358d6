"""Files of readings: ``parse`` reads one, ``likely`` guesses what its columns are about."""
