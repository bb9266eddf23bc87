"""Plinto's core: the colour computation, free of any interface, server or database."""

import os

# Of numpy's linear algebra: threads that are done sleep at once (4: after 2**4 turns of a loop). As they
# come they turn for a tenth of a second, and a build of a profile costs a third more processor time.
# It is read when numpy is loaded, so it stands before everything else.
os.environ.setdefault("OPENBLAS_THREAD_TIMEOUT", "4")

__version__ = "0.1.0"
