"""The twin: a case and its weather in, what the build will do out."""
