"""Heads of several makers' kinds, to learn what skin does between the marks and to check it on a kind left out."""
