"""THE TRUCK: what both axles share, where each figure comes from, and how a design stands on it."""
