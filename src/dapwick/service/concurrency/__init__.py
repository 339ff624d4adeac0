"""Turns for heavy work, slow writes, versioned writes."""
