"""Runs of the strike drill: levels, how they start, the log that plays them again, the debrief, and other hands."""
