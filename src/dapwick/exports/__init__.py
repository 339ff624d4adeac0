"""What leaves the product on paper or as a file."""
