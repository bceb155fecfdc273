"""Looking around from one hole: what a picture that turns shows, what that is along the ice, and where to drill."""
