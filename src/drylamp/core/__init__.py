"""Pure computation: no web, no database, no clock, no files but the tables shipped with it."""
