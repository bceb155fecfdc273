"""The Trip step: the water from above and the day before it is fished."""
