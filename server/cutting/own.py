"""The cutting service in use: a real one set by hand, or the simulated one."""

from outside import Outside

SERVICE = Outside("OAK_LEVER_CUTTING", "cutting.simulated")
