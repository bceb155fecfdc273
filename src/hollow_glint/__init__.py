"""Hollow Glint: bench, card and trainer for fishing sonar used through a hole in the ice."""

__version__ = "0.1.0"
