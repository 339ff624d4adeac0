"""Outline families as shapes on this head, fitted into the coat's room."""
