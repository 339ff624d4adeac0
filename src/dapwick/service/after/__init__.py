"""After the cut: the check, the hand, growth, what comes next, and how far off the tool is."""
