"""From a plan to the sheet: rules, order, tools, minutes, cautions."""
