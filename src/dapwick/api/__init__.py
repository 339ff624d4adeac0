"""HTTP: parse, call the service, shape the answer. Domain errors become HTTP here and only here."""
