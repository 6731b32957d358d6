"""Water that is kept in a box or tank and drawn by the hour."""
