"""Published acoustics, one idea a file: sound in fresh water, a piston's beam, target strengths, the bottom, the sonar
equation's plain terms. Everything else in the core stands on these.
"""
