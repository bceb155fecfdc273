"""Hollow Glint: bench, card and trainer for fishing sonar used through a hole in the ice."""

import os

__version__ = "0.1.0"

# Read by the linear algebra of numpy and scipy as they are loaded. Matrices as small as ours are slower in several
# threads, which spin as they wait for one another and take the cores from all else. Who sets it otherwise is followed.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
