"""The living bench: commands in, frames out, a step at a time; guided exercises on it,
and the tape of what it showed.
"""
