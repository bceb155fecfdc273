"""Fish, lure and hand: what a fish is like, what it makes of a lure, what rod and hook do, and what the ice has taught
today. Fish do not hear the sonar, so nothing here knows of pings.
"""
