"""An evacuated tube filled with water, wings beside it: a kettle for the field."""
