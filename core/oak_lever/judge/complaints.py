"""A built truck that misbehaves: which of this design's figures could cause each complaint, and which of them stand
out."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from oak_lever.design.types import Design
from oak_lever.figures.register import Unit
from oak_lever.judge.findings import Finding
from oak_lever.judge.running import named

Complaint = Literal["hops", "wanders", "binds", "shakes", "hits", "leans", "squats"]

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
        ("rear_steer", "the axle turns in plan as it twists"),
        ("front_steer", "the axle turns in plan as it twists"),
        ("roll_axis", "its slope steers the axle as the body leans"),
        ("front_roll_axis", "its slope steers the axle as the body leans"),
        ("lateral_drift", "the axle walks sideways over bumps"),
        ("bump_steer", "the drag link turns the knuckle over bumps"),
        ("twist_steer", "the drag link turns the knuckle as the axle twists"),
        ("side_give", "the axle gives sideways before it is held"),
        ("caster_change", "caster swings with travel"),
        ("panhard_slope", "a sloped bar moves the axle at once"),
    ),
    "binds": (
        ("bind", "more is asked of the links than they can do at once"),
        ("fight", "two things hold the axle sideways and disagree"),
        ("joint_angle", "a joint runs out of angle"),
        ("eye_frame", "a shock's eye is forced against its ears"),
        ("eye_axle", "a shock's eye is forced against its ears"),
        ("stroke_droop", "a shock hangs the axle"),
        ("strap_side", "a strap is pulled sideways"),
    ),
    "shakes": (
        ("pinion_set", "the joints do not cancel at ride"),
        ("unsteady", "the joints do not cancel over the travel"),
        ("case_angle", "the joint at the case works at a large angle"),
        ("pinion_angle", "the joint at the pinion works at a large angle"),
        ("pinion_change", "the pinion swings with travel"),
        ("slip_in", "the shaft comes near to solid"),
        ("side_give", "the axle can move on its bushings"),
    ),
    "hits": (
        ("order_bump", "something ends the way up before the bump stop"),
        ("order_droop", "something ends the way down before the strap"),
        ("stroke_bump", "a shock bottoms"),
        ("coils", "coils touch"),
        ("stop_touches", "a bump stop that never touches stops nothing"),
        ("slip_out", "the shaft is drawn out to its end"),
        ("slip_in", "the shaft is pressed to its end"),
        ("sits", "a truck that sits low has less travel left"),
    ),
    "leans": (
        ("roll_center", "a low one lets the body lean"),
        ("frequency", "soft springs lean"),
        ("sides", "one side's springs carry higher"),
        ("bar_arm", "a bar whose arms slope works less"),
        ("over", "a sprung arm that wants to roll over"),
    ),
    "squats": (
        ("anti_squat", "little of it leaves the squat to the springs"),
        ("anti_dive", "little of it leaves the dive to the springs"),
        ("sits", "the springs carry it at another height"),
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


def _rank(cause: Cause) -> int:
    return 2 if cause.stands_out is None else 0 if cause.stands_out else 1


def _causes(design: Design, complaint: Complaint, found: Sequence[Finding]) -> list[Cause]:
    causes = []
    for figure, how in _CAUSES[complaint]:
        own = [one for one in found if one.figure == figure]
        known = named(figure if figure in _WHOLE else f"run {figure}")
        if getattr(known, "end", None) not in (None, design.axle.end):
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


_WHOLE = frozenset((
    "anti_squat", "anti_squat_fall", "anti_lift_drive", "separation_axle", "bind", "rear_steer", "front_steer",
    "roll_axis", "front_roll_axis", "lateral_drift", "side_give", "caster_change", "panhard_slope", "fight",
    "joint_angle", "pinion_change", "roll_center", "anti_dive",
))  # fmt: skip
