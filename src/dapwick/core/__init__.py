"""The job's rules and mathematics: NumPy and SciPy only, no files, no database, no web."""
