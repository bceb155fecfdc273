"""What is kept: holes, units, lures and strikes in one SQLite file, through plain SQL.

One module per aggregate; `database` opens the file, checks that it is ours, and brings it up to date from the numbered
files in `migrations`. A write is acknowledged only after it is on disk (synchronous=FULL).
"""
