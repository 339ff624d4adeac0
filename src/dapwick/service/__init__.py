"""Use cases: one function is one thing a user does. The only place core, vision and records meet."""
