"""The numbered files that bring a store up to date, in order."""
