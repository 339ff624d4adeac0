"""After the cut: what was promised against what happened, on this dog and by this hand."""
