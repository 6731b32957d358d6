"""Water that is poured in to be boiled and poured out."""
