"""The line between readings and the outside: ingest, and the simulated stand-ins."""
