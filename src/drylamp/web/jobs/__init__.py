"""Heavy answers: worked out by processes of their own behind a small queue, step by step, so that the rest of the app answers at once; over the wire they are begun, looked at, stopped."""
