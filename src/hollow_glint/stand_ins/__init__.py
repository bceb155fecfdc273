"""Simulated outside devices, so that what needs one can be practised and tested at home."""
