"""A black stone on the ground: a kind that lives only in the tests, to prove that a kind is one folder."""
