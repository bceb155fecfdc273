"""The log: outings, what they teach with how much certainty, places like those that worked, and where to go back to."""
