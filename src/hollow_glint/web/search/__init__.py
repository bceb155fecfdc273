"""The Search step: what a picture that turns shows, and where to go."""
