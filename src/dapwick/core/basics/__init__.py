"""Arrays, errors, marks, cameras and frames: what every other room of the core speaks of."""
