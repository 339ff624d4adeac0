"""Photos of a visit and the edges traced on them."""
