"""A crew on the ice together: a call turned to each one's own hole, and who may come in."""
