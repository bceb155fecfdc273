"""The day before it is fished: which places, in which order, within the day; how long the power lasts in the cold."""
