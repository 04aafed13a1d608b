"""House values: which figures are judged, the bands for each use, what each school of design makes of them.

Defaults, never truths: a design's own `bands` replace them one by one. Lengths mm, angles degrees.
"""

from dataclasses import dataclass
from typing import Literal

from oak_lever.design.types import School, Use

Severity = Literal["stop", "fix", "consider", "good"]
Unit = Literal["mm", "deg", "percent", "ratio"]
Limits = tuple[float | None, float | None]

USES: dict[Use, str] = {
    "crawling": "Crawling",
    "trail": "Trail and touring",
    "street": "Street and towing",
    "strip": "Strip",
    "desert": "Fast desert",
}
DEFAULT_USE: Use = "trail"
DEFAULT_SCHOOL: School = "numbers_first"


@dataclass(frozen=True)
class Figure:
    """A judged figure: what it is called and means, how grave it is outside its band, why, and who would disagree.

    `scale` names what a house band is a multiple of: the band is then given in mm.
    """

    id: str
    name: str
    unit: Unit
    severity: Severity
    meaning: str
    why_low: str
    why_high: str
    disagrees: str
    bands: dict[Use, Limits]
    end: Literal["rear", "front"] | None = None
    scale: Literal["tire_radius", "tire_diameter", "axle_separation"] | None = None


def _all(low: float | None, high: float | None) -> dict[Use, Limits]:
    return dict.fromkeys(USES, (low, high))


def _most(*highs: float) -> dict[Use, Limits]:
    return {use: (None, high) for use, high in zip(USES, highs, strict=True)}


def _each(*bands: Limits) -> dict[Use, Limits]:
    return dict(zip(USES, bands, strict=True))


FIGURES: tuple[Figure, ...] = (
    Figure(
        "anti_squat", "Anti-squat", "percent", "fix",
        "How much of the rear's squat under drive the links carry instead of the springs, at ride, as if this axle did "
        "all the driving.",
        "The rear squats under drive and the springs have to carry it.",
        "The links jack the rear up under drive: it hops on a climb and unloads the springs.",
        "Racers who want it to hit the tire hard run more; those who run long soft springs run less.",
        _each((50, 100), (40, 90), (40, 100), (90, 130), (20, 70)), end="rear",
    ),
    Figure(
        "anti_squat_fall", "Anti-squat fall to droop", "percent", "consider",
        "How much less anti-squat there is at full droop than at ride.",
        "Anti-squat rises as the axle drops: the more it jacks itself up, the harder it jacks.",
        "Anti-squat falls away as the rear lifts, so the launch changes while it happens.",
        "With little droop travel in use it hardly shows.",
        _each((0, None), (0, None), (None, None), (None, 15), (0, None)), end="rear",
    ),
    Figure(
        "ic_length", "Instant center length", "mm", "consider",
        "How far ahead of or behind the axle the point lies that it swings about, at ride.",
        "The links converge close by: pinion, anti-squat and wheel path change quickly with travel.",
        "The instant center lies far out: the tire is planted slowly on the launch.",
        "Equal parallel links have none at all, and hold the pinion for it.",
        _each((1500, None), (1500, None), (1500, None), (1000, 1400), (2500, None)),
    ),
    Figure(
        "roll_center", "Roll center height", "mm", "fix",
        "The height at which the links hold the axle sideways, at ride: the body rolls about it.",
        "A low roll center lets the body lean far on its springs in a turn or on a side slope.",
        "A high roll center jacks the body up in a turn and shoves it sideways over one-wheel bumps.",
        "Crawlers like it high for side slopes; road builders like it low.",
        _each((1.0, 1.6), (0.8, 1.4), (0.7, 1.2), (0.8, 1.3), (0.8, 1.4)), scale="tire_radius",
    ),
    Figure(
        "roll_axis", "Roll axis", "deg", "consider",
        "Slope of the line the axle rolls about, at ride; + rises toward the front.",
        "The axis dips to the front: the axle steers into understeer when the body leans, and feels dull.",
        "The axis rises to the front: the axle steers the rear outward when the body leans, and it feels loose.",
        "Slow trucks never notice either.",
        _each((-6, 2), (-5, 0), (-4, 0), (-1, 1), (-5, 0)), end="rear",
    ),
    Figure(
        "rear_steer", "Rear steer", "deg", "fix",
        "How far the axle turns in plan from full articulation one way to full articulation the other.",
        "", "The axle steers the truck as it articulates.",
        "At walking pace it costs little.",
        _most(4, 2.5, 1.5, 0.5, 2), end="rear",
    ),
    Figure(
        "pinion_change", "Pinion change", "deg", "fix",
        "Between the pinion's highest and lowest pointing over the whole travel.",
        "", "The pinion swings too far: joints run at unequal angles and the shaft shakes.",
        "With a double joint at the transfer case the pinion may swing as long as it follows the case.",
        _most(6, 4, 2, 2, 6), end="rear",
    ),
    Figure(
        "caster_change", "Caster change", "deg", "fix",
        "Between the most and the least caster over the whole travel.",
        "", "Caster swings with travel: the truck wanders at droop or steers heavily at bump.",
        "Radius arm builders live with more for the room it saves.",
        _most(5, 3, 2, 2, 2.5), end="front",
    ),
    Figure(
        "lower_angle", "Lower link angle", "deg", "consider",
        "The steepest lower link, from level, at ride.",
        "", "Steep lowers push the axle back or pull it forward over every bump, and hang lower.",
        "Tall trucks with short frames have no choice; anti-squat may want the slope.",
        _most(10, 8, 6, 6, 10),
    ),
    Figure(
        "lateral_drift", "Sideways drift", "mm", "consider",
        "How far the axle's center moves sideways over the whole travel.",
        "", "The axle walks sideways over bumps and steers the truck.",
        "A long level panhard bar drifts little enough for most.",
        _most(25, 15, 10, 5, 15),
    ),
    Figure(
        "separation_axle", "Separation at the axle", "mm", "fix",
        "Mean height of the upper joints over the lower ones, at the axle.",
        "Close together, uppers and lowers carry large forces from axle torque, and brackets tear.", "",
        "With little torque and heavy brackets less has lasted.",
        _all(0.25, None), scale="tire_diameter",
    ),
    Figure(
        "separation_frame", "Separation at the frame", "mm", "consider",
        "Mean height of the upper joints over the lower ones, at the frame.",
        "Close together at the frame, the links converge soon and small errors in the holes turn the pinion.",
        "Wider at the frame than at the axle, the links converge behind the axle.",
        "The frame often leaves no more room.",
        _all(0.4, 1.0), scale="axle_separation",
    ),
    Figure(
        "side_force", "Link force from side load", "ratio", "fix",
        "The largest force in any link, as a multiple of a side load on the tires, where the links' angles alone hold "
        "the axle sideways.",
        "", "The links lie nearly along the truck: a side load is multiplied in them, and bushings let it wander.",
        "Some hold by a rule of 40 degrees between an upper and a lower; the force says it better.",
        _all(None, 2.0),
    ),
    Figure(
        "joint_angle", "Joint angle", "deg", "fix",
        "The largest turn of any joint out of its bolt's square, anywhere in travel, articulation and both together.",
        "", "A joint comes within three degrees of where a rod end with misalignment spacers runs out, 28 degrees; set "
        "your maker's figure.",
        "High-misalignment ends allow more; bushed ends far less.",
        _all(None, 25.0),
    ),
    Figure(
        "swing", "Link swing", "deg", "consider",
        "The largest angle any link swings through from full droop to full bump.",
        "", "Short links swing far: everything changes quickly toward the ends of the travel.",
        "As long as the chassis lets you is all anyone can do.",
        _all(None, 20.0),
    ),
    Figure(
        "bind", "Give needed", "mm", "consider",
        "What bushings or steel must give where the links ask for more than one thing at once.",
        "", "The links fight each other in articulation; rigid rod ends would bend something.",
        "With soft bushed ends at one end of each link it works for years.",
        _all(None, 0.0),
    ),
)  # fmt: skip

JOINT_LIMIT_DEG = 28.0
"""Where a spherical rod end with misalignment spacers commonly runs out; a house value, for want of a maker's."""

MOST_GIVE_MM = 4.0
"""What two rubber-bushed ends of a link may be asked to give together; beyond it something bends. A house value."""

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
        "Upper about three quarters of the lower: on a steered axle the caster turns less; on a rear axle with a "
        "double-jointed shaft the pinion follows the transfer case. The curve is judged, not the ratio.",
        {"pinion_change": (None, 8), "caster_change": (None, 2.5)},
    ),
    "converge_on_a_point": Approach(
        "Converge on a point",
        "All links point at one chosen place ahead: simple to mark out, and anti-squat is set by that one point.",
        {"ic_length": (1200, None)},
    ),
    "flat_and_long": Approach(
        "Flat and long first",
        "Links as level and as long as the chassis lets you: little wheel path, slow changes; the figures follow.",
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
