"""How far anything is ever moved for a figure's sake, mm; locks and mount zones may hold it closer."""

PULL_WITHIN_MM = 150.0
"""A pull, or *several a little*, moves no mount farther along an axis: it is to stay the same suspension."""

CURE_WITHIN_MM = 200.0
"""A cure moves a single mount or pair, so a little farther; by then it is another design."""
