"""Marks on photos to one head in millimetres, with its covariance."""
