"""The one register of figures: what each is called, means and is measured in, how it is measured and drawn, what is
wanted of it by use, why, and who would disagree. The screen, the command, the sheet and the documents take every name
from here.

Bands are house values: defaults, never truths. Lengths mm, angles degrees.
"""

from dataclasses import dataclass
from typing import Literal

from oak_lever.design.types import Use

Severity = Literal["stop", "fix", "consider", "good"]
Unit = Literal["mm", "deg", "percent", "ratio"]
End = Literal["rear", "front"]
SweepName = Literal["heave", "articulation"]
Limits = tuple[float | None, float | None]
Construction = Literal["center", "neutral", "axis", "plan", "arcs", "path"]
Scale = Literal["tire_radius", "tire_diameter", "axle_separation"]

USES: dict[Use, str] = {
    "crawling": "Crawling",
    "trail": "Trail and touring",
    "street": "Street and towing",
    "strip": "Strip",
    "desert": "Fast desert",
}


@dataclass(frozen=True)
class Column:
    """A figure of every row of the cycle: its key in the file format, what heads it in a narrow table, its unit;
    `rare`: only in tables that leave nothing out."""

    id: str
    title: str
    unit: Unit
    rare: bool = False


COLUMNS: tuple[Column, ...] = (
    Column("travel", "travel", "mm"),
    Column("articulation", "artic.", "deg"),
    Column("axle_x", "ahead", "mm"),
    Column("axle_y", "left", "mm"),
    Column("axle_z", "up", "mm", rare=True),
    Column("roll", "roll", "deg", rare=True),
    Column("yaw", "yaw", "deg"),
    Column("pinion_change", "pinion", "deg"),
    Column("caster_change", "caster", "deg"),
    Column("ic_x", "center x", "mm"),
    Column("ic_height", "center z", "mm"),
    Column("ic_length", "center at", "mm", rare=True),
    Column("anti_squat", "squat", "percent"),
    Column("anti_dive", "dive", "percent"),
    Column("anti_lift_drive", "lift, dr.", "percent", rare=True),
    Column("anti_lift_brake", "lift, br.", "percent", rare=True),
    Column("roll_center_height", "roll c.", "mm"),
    Column("roll_axis_angle", "roll axis", "deg"),
    Column("roll_steer", "steer", "ratio", rare=True),
    Column("bind", "bind", "mm"),
)


@dataclass(frozen=True)
class At:
    """A column's value at ride; `rated`: as if this axle did all the driving, whatever its share."""

    column: str
    rated: bool = False


@dataclass(frozen=True)
class Range:
    """A column's highest less its lowest value over a sweep."""

    column: str
    sweep: SweepName


@dataclass(frozen=True)
class Own:
    """Measured in a way of its own, by that name."""

    name: str


@dataclass(frozen=True)
class Pull:
    """A column that can be wanted at the scrubber, and what it is called when typed."""

    column: str
    words: str


@dataclass(frozen=True)
class Judgment:
    """How grave a figure is outside its band, the bands by use, why on either side, what to do, who would disagree.

    `scale` names what a band is a multiple of: it is then held against the figure in mm. `end`: judged there only.
    """

    severity: Severity
    bands: dict[Use, Limits]
    why_low: str = ""
    why_high: str = ""
    remedy_low: str = ""
    remedy_high: str = ""
    disagrees: str = ""
    scale: Scale | None = None
    end: End | None = None


@dataclass(frozen=True)
class Figure:
    """A figure of a whole design. `short` is its name where there is little room; `row`: it stands among the readings
    beside the drawing; `construction` is what explains it there; without a `verdict` it is only read."""

    id: str
    name: str
    short: str
    unit: Unit
    how: At | Range | Own
    meaning: str
    end: End | None = None
    row: bool = True
    construction: Construction | None = None
    pulls: tuple[Pull, ...] = ()
    verdict: Judgment | None = None


def every(low: float | None, high: float | None) -> dict[Use, Limits]:
    """One band for all uses."""
    return dict.fromkeys(USES, (low, high))


def most(*highs: float) -> dict[Use, Limits]:
    """The highest value for each use in turn."""
    return {use: (None, high) for use, high in zip(USES, highs, strict=True)}


def each(*bands: Limits) -> dict[Use, Limits]:
    """A band for each use in turn."""
    return dict(zip(USES, bands, strict=True))


FIGURES: tuple[Figure, ...] = (
    Figure(
        "ic_length", "Instant center length", "Instant center", "mm", At("ic_length"),
        "How far ahead of or behind the axle the point lies that it swings about, at ride.",
        construction="center",
        pulls=(Pull("ic_x", "Ahead of the axle"), Pull("ic_height", "Off the ground")),
        verdict=Judgment(
            "consider", each((1500, None), (1500, None), (1500, None), (1000, 1400), (2500, None)),
            why_low="The links converge close by: pinion, anti-squat and wheel path change quickly with travel.",
            why_high="The instant center lies far out: the tire is planted slowly on the launch.",
            remedy_low="Bring the links nearer to parallel.",
            remedy_high="Let the links converge sooner.",
            disagrees="Equal parallel links have none at all, and hold the pinion for it.",
        ),
    ),
    Figure(
        "anti_squat", "Anti-squat", "Anti-squat", "percent", At("anti_squat", rated=True),
        (
            "How much of the rear's squat under drive the links carry instead of the springs, at ride, as if this axle "
            "did all the driving."
        ),
        end="rear",
        construction="neutral",
        pulls=(Pull("anti_squat", "Percent"),),
        verdict=Judgment(
            "fix", each((50, 100), (40, 90), (40, 100), (90, 130), (20, 70)),
            why_low="The rear squats under drive and the springs have to carry it.",
            why_high="The links jack the rear up under drive: it hops on a climb and unloads the springs.",
            remedy_low="Slope the lowers up toward the frame, or the uppers down.",
            remedy_high="Lower the lowers' frame mounts, or raise the uppers'.",
            disagrees="Racers who want it to hit the tire hard run more; those who run long soft springs run less.",
        ),
    ),
    Figure(
        "anti_squat_fall", "Anti-squat fall to droop", "Anti-squat fall", "percent", Own("anti_squat_fall"),
        "How much less anti-squat there is at full droop than at ride.",
        end="rear",
        row=False,
        verdict=Judgment(
            "consider", each((0, None), (0, None), (None, None), (None, 15), (0, None)),
            why_low="Anti-squat rises as the axle drops: the more it jacks itself up, the harder it jacks.",
            why_high="Anti-squat falls away as the rear lifts, so the launch changes while it happens.",
            remedy_low="Longer uppers, or less convergence.",
            remedy_high="Longer links.",
            disagrees="With little droop travel in use it hardly shows.",
        ),
    ),
    Figure(
        "anti_dive", "Anti-dive", "Anti-dive", "percent", At("anti_dive"),
        "How much of the front's dive under braking the links carry instead of the springs, at ride.",
        end="front",
        construction="neutral",
        pulls=(Pull("anti_dive", "Percent"),),
    ),
    Figure(
        "roll_center", "Roll center height", "Roll center", "mm", At("roll_center_height"),
        "The height at which the links hold the axle sideways, at ride: the body rolls about it.",
        construction="axis",
        pulls=(Pull("roll_center_height", "Off the ground"),),
        verdict=Judgment(
            "fix", each((1.0, 1.6), (0.8, 1.4), (0.7, 1.2), (0.8, 1.3), (0.8, 1.4)),
            why_low="A low roll center lets the body lean far on its springs in a turn or on a side slope.",
            why_high="A high roll center jacks the body up in a turn and shoves it sideways over one-wheel bumps.",
            remedy_low="Raise what locates the axle sideways.",
            remedy_high="Lower what locates the axle sideways.",
            disagrees="Crawlers like it high for side slopes; road builders like it low.",
            scale="tire_radius",
        ),
    ),
    Figure(
        "roll_axis", "Roll axis", "Roll axis", "deg", At("roll_axis_angle"),
        "Slope of the line the axle rolls about, at ride; + rises toward the front and steers the axle in roll.",
        construction="axis",
        pulls=(Pull("roll_axis_angle", "Slope, degrees"),),
        verdict=Judgment(
            "consider", each((-6, 2), (-5, 0), (-4, 0), (-1, 1), (-5, 0)),
            why_low="The axis dips to the front: the axle steers into understeer when the body leans, and feels dull.",
            why_high="The axis rises to the front: the axle steers the rear outward as the body leans and feels loose.",
            remedy_low="Raise the frame end of the lowers' apex, or lower the uppers'.",
            remedy_high="Level the links that locate it sideways.",
            disagrees="Slow trucks never notice either.",
            end="rear",
        ),
    ),
    Figure(
        "rear_steer", "Rear steer", "Rear steer", "deg", Range("yaw", "articulation"),
        "How far the axle turns in plan from full articulation one way to full articulation the other.",
        end="rear",
        construction="axis",
        verdict=Judgment(
            "fix", most(4, 2.5, 1.5, 0.5, 2),
            why_high="The axle steers the truck as it articulates.",
            remedy_high="Bring the roll axis nearer to level.",
            disagrees="At walking pace it costs little.",
        ),
    ),
    Figure(
        "pinion_change", "Pinion change", "Pinion change", "deg", Range("pinion_change", "heave"),
        "Between the pinion's highest and lowest pointing over the whole travel.",
        end="rear",
        construction="arcs",
        pulls=(Pull("pinion_change", "Degrees up"),),
        verdict=Judgment(
            "fix", most(6, 4, 2, 2, 6),
            why_high="The pinion swings too far: joints run at unequal angles and the shaft shakes.",
            remedy_high="Bring uppers and lowers nearer to parallel in the side view.",
            disagrees="With a double joint at the transfer case the pinion may swing as long as it follows the case.",
        ),
    ),
    Figure(
        "caster_change", "Caster change", "Caster change", "deg", Range("caster_change", "heave"),
        "Between the most and the least caster over the whole travel.",
        end="front",
        construction="arcs",
        pulls=(Pull("caster_change", "Degrees back"),),
        verdict=Judgment(
            "fix", most(5, 3, 2, 2, 2.5),
            why_high="Caster swings with travel: the truck wanders at droop or steers heavily at bump.",
            remedy_high="Bring uppers and lowers nearer to parallel in the side view.",
            disagrees="Radius arm builders live with more for the room it saves.",
        ),
    ),
    Figure(
        "fore_aft", "Axle fore-aft", "Axle fore-aft", "mm", Range("axle_x", "heave"),
        "How far forward (+) and back the axle's center swings on the links over the whole travel.",
        construction="path",
        pulls=(Pull("axle_x", "Forward"),),
    ),
    Figure(
        "lateral_drift", "Sideways drift", "Sideways drift", "mm", Range("axle_y", "heave"),
        "How far the axle's center moves sideways over the whole travel.",
        construction="path",
        pulls=(Pull("axle_y", "To the left"),),
        verdict=Judgment(
            "consider", most(25, 15, 10, 5, 15),
            why_high="The axle walks sideways over bumps and steers the truck.",
            remedy_high="A longer panhard bar, level at ride or at mid travel.",
            disagrees="A long level panhard bar drifts little enough for most.",
        ),
    ),
    Figure(
        "lower_angle", "Lower link angle", "Lower links", "deg", Own("lower_angle"),
        "The steepest lower link, from level, at ride.",
        verdict=Judgment(
            "consider", most(10, 8, 6, 6, 10),
            why_high="Steep lowers push the axle back or pull it forward over every bump, and hang lower.",
            remedy_high="Lower the frame mounts or raise the axle mounts of the lowers.",
            disagrees="Tall trucks with short frames have no choice; anti-squat may want the slope.",
        ),
    ),
    Figure(
        "separation_axle", "Separation at the axle", "Separation", "mm", Own("separation_axle"),
        "Mean height of the upper joints over the lower ones, at the axle.",
        verdict=Judgment(
            "fix", every(0.25, None),
            why_low="Close together, uppers and lowers carry large forces from axle torque, and brackets tear.",
            remedy_low="Raise the upper mounts on the axle, or lower the lower ones.",
            disagrees="With little torque and heavy brackets less has lasted.",
            scale="tire_diameter",
        ),
    ),
    Figure(
        "separation_frame", "Separation at the frame", "Separation, frame", "mm", Own("separation_frame"),
        "Mean height of the upper joints over the lower ones, at the frame.",
        row=False,
        verdict=Judgment(
            "consider", every(0.4, 1.0),
            why_low="Close together at the frame, the links converge soon, and small errors in holes turn the pinion.",
            why_high="Wider at the frame than at the axle, the links converge behind the axle.",
            remedy_low="Spread the frame mounts in height.",
            remedy_high="Bring the frame mounts closer in height.",
            disagrees="The frame often leaves no more room.",
            scale="axle_separation",
        ),
    ),
    Figure(
        "side_force", "Link force from side load", "Side load", "ratio", Own("side_force"),
        (
            "The largest force in any link, as a multiple of a side load on the tires, where the links' angles alone "
            "hold the axle sideways."
        ),
        construction="plan",
        verdict=Judgment(
            "fix", every(None, 2.0),
            why_high="The links lie nearly along the truck: a side load is multiplied in them, and bushings wander.",
            remedy_high="Spread the links: wider at one end, closer at the other.",
            disagrees="Some hold by a rule of 40 degrees between an upper and a lower; the force says it better.",
        ),
    ),
    Figure(
        "joint_angle", "Joint angle", "Joint angle", "deg", Own("joint_angle"),
        "The largest turn of any joint out of its bolt's square, anywhere in travel, articulation and both together.",
        verdict=Judgment(
            "fix", every(None, 25.0),
            why_high=(
                "A joint comes within three degrees of where a rod end with misalignment spacers runs out, 28 degrees; "
                "set your maker's figure."
            ),
            remedy_high="Turn that mount's bolt square to its link at mid travel, or fit a joint that turns farther.",
            disagrees="High-misalignment ends allow more; bushed ends far less.",
        ),
    ),
    Figure(
        "swing", "Link swing", "Link swing", "deg", Own("swing"),
        "The largest angle any link swings through from full droop to full bump.",
        construction="arcs",
        verdict=Judgment(
            "consider", every(None, 20.0),
            why_high="Short links swing far: everything changes quickly toward the ends of the travel.",
            remedy_high="Longer links, or less travel.",
            disagrees="As long as the chassis lets you is all anyone can do.",
        ),
    ),
    Figure(
        "bind", "Give needed", "Give needed", "mm", Own("bind"),
        "What bushings or steel must give where the links ask for more than one thing at once.",
        verdict=Judgment(
            "consider", every(None, 0.0),
            why_high="The links fight each other in articulation; rigid rod ends would bend something.",
            remedy_high="Bushed ends with that much give, or a layout that does not need it.",
            disagrees="With soft bushed ends at one end of each link it works for years.",
        ),
    ),
)  # fmt: skip

JUDGED = tuple(figure for figure in FIGURES if figure.verdict is not None)
BY_ID = {figure.id: figure for figure in FIGURES}
