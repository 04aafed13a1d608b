"""Every tolerance of the core, in one place, each with its reason."""

from typing import Final

SETTLED_MM: Final = 1e-6
"""A Newton step shorter than this (turns count by what they move at the layout's reach) is the last: the next would
be its square over the links' length, 1e-14 mm, far below the 1e-9 mm that is promised. The speeds taken along the way
are then off by 1e-9 of themselves at most."""

STILL: Final = 1e-9
"""A correction (mm, or radians times the layout's reach) below which the give has found its least:
the sum of squares is flat there, so a smaller move changes no error by a digit that is kept."""

NO_BIND_MM: Final = 1e-8
"""Give below this is rounding, not give: reported as none."""

STOP_MM: Final = 1e-3
"""How finely the end of the travel is closed in on; a hundredth of the 0.1 mm that is promised."""

STOP_RAD: Final = 1e-6
"""The same for articulation; a hundredth of the 0.01 degree that is promised, rounded down."""

STEP_MM: Final = 25.0
"""Longest single step of travel while following the axle: the links turn about one and a half degrees."""

STEP_RAD: Final = 0.04
"""Longest single step of articulation while following the axle (2.3 degrees)."""

LOOSE: Final = 1e-7
"""Ratio of pivots below which a direction is free. A file's figures are rounded at 1e-3 mm at best,
so links that are parallel on paper stay so to 1e-6 or better or are plainly not parallel."""

COINCIDENT_MM: Final = 1e-6
"""Two joint centers nearer than this are one point: no link has a direction there."""

PLUMB_MM: Final = 1e-6
"""A link whose ends are nearer than this in a view shows as a point there: it has no angle in it."""

FAR_MM: Final = 100_000.0
"""An instant center farther than this is at infinity for every purpose of a shop."""

LARGEST_MM: Final = 100_000.0
"""No coordinate or size of a truck comes near 100 m; a figure beyond it is a slip of the pen."""

LARGEST_KG: Final = 1_000_000.0
"""The same for masses."""

DEEPEST: Final = 64
"""Levels of nesting a design file may have."""

ROLLS_FREE_DEG: Final = 5.0
"""A link whose frame bolt lies nearer to its own line than this could roll about itself: it can't say where a point
that it carries is."""

SINGULAR: Final = 1e-14
"""A pivot, or a turn beside a radian, below this is none: it is lost in the rounding of the sums that made it."""

NO_LENGTH_MM: Final = 1e-12
"""Put in a length's place where it is nil, so that dividing by it stays finite; such a link has no direction."""
