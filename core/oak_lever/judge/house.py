"""House values that are no figure's band: what bushes are asked to give, and what each school makes of the bands.

Defaults, never truths: a truck's own `bands` replace them one by one. Lengths mm, angles degrees.
"""

from dataclasses import dataclass

from oak_lever.design.types import School, Use
from oak_lever.figures.register import Limits

DEFAULT_USE: Use = "trail"
DEFAULT_SCHOOL: School = "numbers_first"

ARM_BUSH_MM = 4.0
"""What each of a radius arm's two bushes at the axle, made soft for it, may be asked to give. A house value."""


@dataclass(frozen=True)
class Approach:
    """A school: what it is called, what it buys, and the bands it changes (in the units of `Figure.bands`)."""

    name: str
    buys: str
    bands: dict[str, Limits]


SCHOOLS: dict[School, Approach] = {
    "numbers_first": Approach(
        "Numbers first", "Place by the figures, then see what fits. The bands of the use stand as they are.", {}
    ),
    "hold_pinion": Approach(
        "Hold the pinion",
        "Equal, parallel links: the pinion keeps its angle. The instant center is far away and anti-squat comes from "
        "the links' slope. Keeping its angle is not the same as pointing at the transfer case.",
        {"pinion_change": (None, 1.5), "caster_change": (None, 1.5), "ic_length": (4000, None)},
    ),
    "short_upper": Approach(
        "Short upper",
        "Upper about three quarters of the lower, because a longer one does not fit, or because many hold that the "
        "housing then turns less. Whether it does here, the curve shows; the curve is judged, not the ratio.",
        {"pinion_change": (None, 8), "caster_change": (None, 2.5)},
    ),
    "converge_on_a_point": Approach(
        "Converge on a point",
        "All links point at one chosen place ahead: simple to mark out, and anti-squat is set by that one point.",
        {"ic_length": (1200, None)},
    ),
    "flat_and_long": Approach(
        "Flat and long first",
        "Links as level and as long as the chassis lets you, and the figures as they follow from that.",
        {"lower_angle": (None, 4), "swing": (None, 15)},
    ),
    "window": Approach(
        "Window, not point",
        "Every hole combination inside a window of anti-squat and instant center length, so that the car can be tuned.",
        {"anti_squat": (90, 130), "ic_length": (1000, 1400)},
    ),
    "what_fits": Approach(
        "Work inside what fits",
        "The places that exist are listed and the least costly taken. The bands stand as they are, to rank them by.",
        {},
    ),
}
