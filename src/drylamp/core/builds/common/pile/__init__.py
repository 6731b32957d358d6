"""The salvage pile: what somebody has, piece by piece, and what of it a build can be made from."""
