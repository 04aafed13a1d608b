"""A built truck that misbehaves: which of this design's figures could cause each complaint, and which of them stand
out."""

from collections.abc import Sequence
from dataclasses import dataclass

from oak_lever.design.fit import Complaint
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID, Unit
from oak_lever.judge.findings import Finding

COMPLAINTS: dict[Complaint, str] = {
    "hops": "It hops under drive",
    "wanders": "It wanders or steers itself",
    "binds": "It binds or creaks in twist",
    "shakes": "It shakes or vibrates",
    "hits": "Something hits",
    "leans": "It leans or rolls far",
    "squats": "It squats, dives or sits low",
}

_CAUSES: dict[Complaint, tuple[tuple[str, str], ...]] = {
    "hops": (
        ("anti_squat", "too much of it jacks the axle up under drive and lets it drop again"),
        ("anti_squat_fall", "where it rises toward droop, each hop feeds the next"),
        ("anti_lift_drive", "too much of it pulls the front down hard"),
        ("separation_axle", "close together, the links wind up and let go"),
        ("frequency", "soft springs let it go on"),
        ("bind", "what has to give springs back"),
    ),
    "wanders": (
        ("rear_steer", "an axle that turns in plan as it twists steers"),
        ("front_steer", "an axle that turns in plan as it twists steers"),
        ("roll_axis", "its slope steers the axle as the body leans"),
        ("front_roll_axis", "its slope steers the axle as the body leans"),
        ("lateral_drift", "an axle that walks sideways over bumps is felt as steering"),
        ("bump_steer", "what the drag link turns the knuckle over bumps"),
        ("twist_steer", "what the drag link turns the knuckle as the axle twists"),
        ("side_give", "an axle that gives sideways is late to be held"),
        ("caster_change", "caster that swings with travel changes the steering"),
        ("panhard_slope", "a sloped bar moves the axle at once"),
    ),
    "binds": (
        ("bind", "what is asked of the links at once and they cannot do, their ends must give"),
        ("fight", "two things that hold the axle sideways and disagree push against each other"),
        ("joint_angle", "a joint that runs out of angle binds"),
        ("eye_frame", "an eye turned past what it gives is forced against its ears"),
        ("eye_axle", "an eye turned past what it gives is forced against its ears"),
        ("stroke_droop", "a shock at its end in droop hangs the axle"),
        ("strap_side", "a strap that leans is pulled sideways"),
    ),
    "shakes": (
        ("pinion_set", "off its setting, {joints} at ride"),
        ("unsteady", "where {joints}, the pinion leads and lags"),
        ("case_angle", "a joint at the case that works near its limit shakes"),
        ("pinion_angle", "a joint at the pinion that works near its limit shakes"),
        ("pinion_change", "a pinion that swings with travel leaves its setting"),
        ("slip_in", "a shaft that comes solid knocks"),
        ("side_give", "an axle that gives sideways moves on its bushings"),
    ),
    "hits": (
        ("gap", "what meets knocks, and wears through"),
        ("order_bump", "what ends the way up before the bump stop knocks"),
        ("order_droop", "what ends the way down before the strap knocks"),
        ("stroke_bump", "a shock that comes to its end in bump knocks"),
        ("coils", "coils that touch knock"),
        ("stop_touches", "a bump stop that never touches stops nothing"),
        ("slip_out", "a shaft drawn out to its end knocks"),
        ("slip_in", "a shaft pressed to its end knocks"),
        ("sits", "a truck that sits low has less travel left"),
    ),
    "leans": (
        ("roll_center", "a low one lets the body lean"),
        ("frequency", "soft springs lean"),
        ("sides", "one side's springs that carry higher lean it"),
        ("bar_arm", "a bar whose arms slope works less"),
        ("over", "a spring over its arm's line rolls the arm"),
    ),
    "squats": (
        ("anti_squat", "little of it leaves the squat to the springs"),
        ("anti_dive", "little of it leaves the dive to the springs"),
        ("sits", "springs that carry it at another height"),
        ("frequency", "soft springs squat and dive"),
    ),
}


@dataclass(frozen=True)
class Cause:
    """A figure that could cause it, how it would, what it is here and whether it stands out of its band; `finding`
    its id, to see what would change it. None where this design has no such figure: then nothing can be said of it."""

    figure: str
    name: str
    how: str
    finding: str | None
    value: float | None
    unit: Unit | None
    low: float | None
    high: float | None
    stands_out: bool | None


@dataclass(frozen=True)
class Explained:
    """A complaint with its possible causes, those that stand out first, then those that do not, then those that
    nothing is known of."""

    complaint: Complaint
    words: str
    causes: tuple[Cause, ...]


def explained(design: Design, found: Sequence[Finding]) -> list[Explained]:
    """What would explain each complaint on this design, by its figures as judged."""
    return [
        Explained(key, words, tuple(sorted(_causes(design, key, found), key=_rank)))
        for key, words in COMPLAINTS.items()
    ]


def _joints(design: Design) -> str:
    """What goes wrong at a shaft of this kind that is not at its setting."""
    shaft = design.driveshaft
    if shaft is not None and shaft.kind == "double_at_case":
        return "the pinion's joint, alone at its end, runs at an angle"
    return "the two joints do not cancel"


def _rank(cause: Cause) -> int:
    return 2 if cause.stands_out is None else 0 if cause.stands_out else 1


def _causes(design: Design, complaint: Complaint, found: Sequence[Finding]) -> list[Cause]:
    causes = []
    for figure, said in _CAUSES[complaint]:
        how = said.format(joints=_joints(design))
        own = [one for one in found if one.figure == figure]
        known = BY_ID[figure]
        if known.end not in (None, design.axle.end):
            continue
        if not own:
            causes.append(Cause(figure, known.name, how, None, None, None, None, None, None))
        for one in own:
            out = one.severity != "good" and _toward(complaint, figure, one)
            causes.append(
                Cause(figure, one.title, how, one.id, one.value, one.unit, one.low, one.high, out)
            )  # fmt: skip
    return causes


_LOW_ONLY = {("squats", "anti_squat"), ("squats", "anti_dive"), ("leans", "roll_center"), ("leans", "frequency"),
             ("squats", "frequency"), ("hops", "frequency"), ("squats", "sits"), ("hits", "sits"),
             ("hops", "anti_squat_fall")}  # fmt: skip
"""Only what is too low explains these; too high explains the others where they are of one kind."""
_HIGH_ONLY = {("hops", "anti_squat"), ("hops", "anti_lift_drive")}


def _toward(complaint: Complaint, figure: str, finding: Finding) -> bool:
    """Whether it stands out on the side that would cause this."""
    if (complaint, figure) in _LOW_ONLY:
        return finding.verdict == "low"
    if (complaint, figure) in _HIGH_ONLY:
        return finding.verdict == "high"
    return True
