"""Measures a dog's head from photos and plans its outline before scissoring."""

__version__ = "0.1.0"
