"""Practice: heads made up with known truth, five drills on them, and what they tell of a person's eye and hand."""
