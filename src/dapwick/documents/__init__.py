"""What is stored or exported as JSON: one versioned model each."""
