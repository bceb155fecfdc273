"""Checks of how a photo of a screen is read."""
