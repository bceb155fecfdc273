"""The Read step: recordings, drills and the call sheet."""
