"""From an outline to lengths a stylist can cut."""
