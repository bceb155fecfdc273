"""What is true under a hole: the water, the ice and the bottom, what lies, hangs and swims there, who else pings, and
how a lure swings. Nothing here has heard a ping yet.
"""
