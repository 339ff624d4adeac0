"""The salon's records: SQLite rows and photo files by content hash."""
