"""Codes as words: what is kept as `two_cuts` is said as "two cuts"."""

from __future__ import annotations


def code_words(code: str) -> str:
    """A code (of a school's choice, of a condition) as it is said."""
    return code.replace("_", " ")
