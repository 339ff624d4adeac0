"""From pixels and marks to everything that is shown; knows no record."""
