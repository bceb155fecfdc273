"""The Log step: strikes."""
