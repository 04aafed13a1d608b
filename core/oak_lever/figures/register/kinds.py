"""What a figure is: its name and meaning, how it is measured and drawn, what is wanted of it."""

from dataclasses import dataclass
from typing import Literal

from oak_lever.design.types import Use

Severity = Literal["stop", "fix", "consider", "good"]
Unit = Literal["mm", "deg", "percent", "ratio", "hz", "n", "n_mm"]
End = Literal["rear", "front"]
SweepName = Literal["heave", "articulation"]
Limits = tuple[float | None, float | None]
Construction = Literal["center", "neutral", "axis", "plan", "arcs", "path"]
Of = Literal["design", "shock", "stop", "strap", "bar", "axle", "shaft", "steering", "mount", "pair", "member", "rule"]
"""What a figure is a figure of: the design as a whole, each part of a sort (`member`: a link, an arm, a locator, as
it carries loads), or the axle with all that runs with it."""
Area = Literal["links", "joints", "corners", "shaft", "steering", "room", "loads"]
"""Which part of the work a figure belongs to, and is shown with."""
Scale = Literal["tire_radius", "tire_diameter", "separation_axle"]

COILS_LEFT_MM = 6.0
"""What a spring should still be from solid where it is shortest."""
BOLT_ROOM_MM = 2.0
"""What should be free around a socket, and around a bolt that is drawn out."""
RESERVE_DEG = 3.0
"""How far inside its limit every joint should stay: bolts are set by eye, and a stop at the limit breaks."""

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
class Read:
    """A column of the part's own (`{part}` stands for its name), over all poses that stops and straps allow (`least`,
    `most`), over the straight travel (`spread`), over the twist at ride (`twist_spread`), or at ride."""

    column: str
    over: Literal["least", "most", "spread", "twist_spread", "ride"]


@dataclass(frozen=True)
class Own:
    """Measured in a way of its own, by that name; `column`: the column of a part that shows it, if there is one;
    `in_band`: the band holds for that column's values too."""

    name: str
    column: str | None = None
    in_band: bool = True


@dataclass(frozen=True)
class Pull:
    """A column that can be wanted at the scrubber, and what it is called when typed."""

    column: str
    words: str


@dataclass(frozen=True)
class Judgment:
    """How grave a figure is outside its band, the bands by use, why on either side, who would disagree.
    What to do about it is worked out for each design, never said beforehand.

    `scale` names what a band is a multiple of: it is then held against the figure in mm. `reserve`: by how much the
    band ends before the part's own limit, where the part has one. `by_joints`: it is held against what joints can do,
    whose kind may not be said. `on_arms`: how grave it is where radius arms turn the housing, whatever is moved.
    `to_look_up`: nothing that is moved or changed cures it, for it says what is not known; where that is put in, in
    words.
    """

    severity: Severity
    bands: dict[Use, Limits]
    why_low: str = ""
    why_high: str = ""
    disagrees: str = ""
    scale: Scale | None = None
    reserve: float | None = None
    by_joints: bool = False
    on_arms: Severity | None = None
    to_look_up: str = ""


@dataclass(frozen=True)
class Figure:
    """One figure. `short` is its name where there is little room; `row`: it stands among the readings beside the
    drawing; `construction` is what explains it there; without a `verdict` it is only read. `breaks`: past which value,
    on the band's side, it is a stop. A fault is
    measured in no such way (`how` None): it is there or not."""

    id: str
    name: str
    short: str
    unit: Unit
    how: At | Range | Read | Own | None
    meaning: str
    of: Of = "design"
    end: End | None = None
    row: bool = True
    construction: Construction | None = None
    pulls: tuple[Pull, ...] = ()
    verdict: Judgment | None = None
    breaks: float | None = None
    area: Area = "links"


def every(low: float | None, high: float | None) -> dict[Use, Limits]:
    """One band for all uses."""
    return dict.fromkeys(USES, (low, high))


def most(*highs: float) -> dict[Use, Limits]:
    """The highest value for each use in turn."""
    return {use: (None, high) for use, high in zip(USES, highs, strict=True)}


def each(*bands: Limits) -> dict[Use, Limits]:
    """A band for each use in turn."""
    return dict(zip(USES, bands, strict=True))
