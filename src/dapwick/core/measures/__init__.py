"""What is read off a solved head: measures, words for its proportions, unevenness."""
