"""The house's network let in: a certificate of one's own, pairing by a code that works once, and a gate that only paired devices pass."""
