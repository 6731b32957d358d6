"""One sqlite file: sites, builds with revisions, trials, channels, readings, events."""
