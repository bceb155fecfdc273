"""The chain that makes the picture: `transmission` and `ping` (echo levels), `receiver` (the knobs), `picture`
(colours).
"""
