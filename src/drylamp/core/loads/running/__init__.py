"""Water that runs through a pipe in the sun, or stands in it until it is drawn."""
