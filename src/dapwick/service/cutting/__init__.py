"""The cut: its sheet, what was done, what is printed."""
