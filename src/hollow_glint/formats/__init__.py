"""Open formats in and out: files that people keep, send to one another and can read with any editor.

Each module is one format: what it holds, how it is written, how a bad file is refused with the line at fault.
"""
