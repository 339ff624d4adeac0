"""Visits and the book; what a visit gives the solver and what its results rest on."""
