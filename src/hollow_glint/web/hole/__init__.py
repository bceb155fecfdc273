"""The Hole step: the holes people drilled."""
