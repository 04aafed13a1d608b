"""The bench in use: a real one set by hand, or the simulated one."""

from outside import Outside

BENCH = Outside("OAK_LEVER_BENCH", "instruments.simulated")
