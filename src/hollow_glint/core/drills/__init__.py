"""Drills that train the eye: questions on filmed clips that the picture alone answers, when each is due, and rounds of
them for others.
"""
