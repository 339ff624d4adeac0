"""Dogs: added, found, told about, followed over time, removed, handed on."""
