"""The coach's rules by subject; each function looks at a situation and returns one verdict or none."""
