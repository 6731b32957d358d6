"""Water that runs past thermometers and a bucket."""
