"""The head as skin with zones, and the coat that stands on it."""
