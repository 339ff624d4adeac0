"""Outlines of the open visit, and the salon's own ones."""
