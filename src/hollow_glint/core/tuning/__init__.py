"""What to set and why: the gain window, the seen zone, the coach's verdicts, what a touched mark is, and a unit
calibrated with a known jig.
"""
