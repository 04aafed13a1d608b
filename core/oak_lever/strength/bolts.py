"""The bolt at each joint: its size, its grade, how it is tightened, and its least factor in shear.

Torque T = K F d (Shigley, Mechanical Engineering Design, section 8-8), preload F = 0.75 of proof on the thread's
tensile area (ISO 898-1; ASME B1.1), friction K = 0.2 for a plain dry bolt: house values, generic ones.
"""

from dataclasses import dataclass
from math import pi

from oak_lever.design.joint_catalog import UNSAID, joint_kind
from oak_lever.design.links import Mount
from oak_lever.design.loads import Fastener
from oak_lever.design.types import Design
from oak_lever.strength.judged import Factored, PartLoads, joint_mounts, part_loads
from oak_lever.strength.loads import Reckoned
from oak_lever.units import length

FRICTION, PRELOAD = 0.2, 0.75
"""K, and the part of its proof that a bolt is drawn to."""
_SIZE_MM = 0.03
"""A bolt within this of a common diameter is of that thread: the nearest two, 5/16 in and M8, are 0.06 apart."""
_OF_YIELD = 0.9
"""Proof over yield of a bolt whose grade is not a common one; of the common ones it is 0.88 to 0.93."""
_YIELD_MPA = 1.0
BUSH_MM = 1.0
"""A joint that gives at least so much is a bush of rubber; races of plastic give less, and turn freely."""
_INCH = 25.4
_BY_INCH, _BY_METRIC = 0.9743, 0.9382
"""Pitches that the tensile area's diameter is less than the thread's, ASME B1.1 and ISO 898-1."""


@dataclass(frozen=True)
class Grade:
    """A common grade: least proof and yield, MPa, of bolts up to a diameter, mm; `inch`: of threads by the inch."""

    id: str
    words: str
    proof: float
    yield_stress: float
    up_to: float
    inch: bool


GRADES = (
    Grade("grade-5", "Grade 5 (inch), up to 1 in", 586.0, 634.0, 25.4, True),
    Grade("grade-8", "Grade 8 (inch), up to 1-1/2 in", 827.0, 896.0, 38.1, True),
    Grade("8.8", "8.8 (metric), up to M16", 580.0, 640.0, 16.0, False),
    Grade("8.8-large", "8.8 (metric), over M16", 600.0, 660.0, 39.0, False),
    Grade("10.9", "10.9 (metric)", 830.0, 940.0, 39.0, False),
)
"""Textbook minima (SAE J429, ISO 898-1): check what is stamped on the head."""

_COARSE_INCH = {
    0.25: 20, 0.3125: 18, 0.375: 16, 0.4375: 14, 0.5: 13, 0.5625: 12, 0.625: 11, 0.75: 10, 0.875: 9, 1.0: 8, 1.125: 7,
    1.25: 7,
}  # fmt: skip
"""Threads an inch by diameter, in (UNC, ASME B1.1)."""
_COARSE_METRIC = {
    6.0: 1.0, 8.0: 1.25, 10.0: 1.5, 12.0: 1.75, 14.0: 2.0, 16.0: 2.0, 18.0: 2.5, 20.0: 2.5, 22.0: 2.5, 24.0: 3.0,
    27.0: 3.0, 30.0: 3.5,
}  # fmt: skip
"""Pitch by diameter, mm (ISO 261)."""


def tensile_area(diameter: float) -> float | None:
    """Of a bolt's coarse thread, mm^2; None where no common bolt has that diameter, mm."""
    for inches, threads in _COARSE_INCH.items():
        if abs(diameter - inches * _INCH) <= _SIZE_MM:
            return pi / 4.0 * (inches * _INCH - _BY_INCH * _INCH / threads) ** 2
    for size, pitch in _COARSE_METRIC.items():
        if abs(diameter - size) <= _SIZE_MM:
            return pi / 4.0 * (size - _BY_METRIC * pitch) ** 2
    return None


def sizes_over(fastener: Fastener) -> list[float]:
    """Common diameters of its kind of thread that are larger, mm, the nearest first."""
    every = [one * _INCH for one in _COARSE_INCH] if is_inch(fastener.diameter) else list(_COARSE_METRIC)
    return sorted(one for one in every if one > fastener.diameter + _SIZE_MM)


def thread_said(diameter: float) -> str:
    """A bolt's size as it is bought, whatever else is measured in: ``5/8 in``, ``M16``."""
    return length(diameter, "in16") if is_inch(diameter) else f"M{diameter:g}"


def is_inch(diameter: float) -> bool:
    """Whether a bolt of that diameter, mm, has an inch thread; one of no common size is taken as metric."""
    return any(abs(diameter - inches * _INCH) <= _SIZE_MM for inches in _COARSE_INCH)


def grade_of(fastener: Fastener) -> Grade | None:
    """The common grade that has this yield and comes in this size."""
    for grade in GRADES:
        if abs(fastener.yield_ - grade.yield_stress) <= _YIELD_MPA and fastener.diameter <= grade.up_to + _SIZE_MM:
            return grade
    return None


def torque_of(fastener: Fastener) -> float | None:
    """What it is tightened with, N m; None where its thread is not a common one."""
    area, grade = tensile_area(fastener.diameter), grade_of(fastener)
    if area is None:
        return None
    proof = grade.proof if grade else _OF_YIELD * fastener.yield_
    return FRICTION * PRELOAD * proof * area * fastener.diameter / 1000.0


@dataclass(frozen=True)
class JointBolt:
    """A mount's bolt: as it is said, or the diameter (mm) that its joint has a hole for with no grade. `torque` N m;
    `worst` its factor in shear in the worst case, where it is known; `bush`: the joint is one that is wound up by its
    own twist, so it is tightened at ride height; None where it is not said what the joint is."""

    mount: str
    diameter: float | None
    yield_stress: float | None
    grade: str | None
    torque: float | None
    worst: Factored | None
    bush: bool | None


def joint_bolts(design: Design, found: Reckoned) -> list[JointBolt]:
    """Every mount that one bolt holds, links first."""
    rated = {one.part: one for one in part_loads(design, found)}
    return [_bolt(design, rated.get(part), part, end, mount) for part, end, mount in joint_mounts(design)]


def _bolt(design: Design, rated: PartLoads | None, part: str, end: str, mount: Mount) -> JointBolt:
    kind = joint_kind(design, mount.joint)
    bush = None if kind is UNSAID else kind.give >= BUSH_MM
    fastener = mount.fastener
    if fastener is None:
        return JointBolt(f"{part}.{end}", kind.bolt, None, None, None, None, bush)
    worst = next((one for one in rated.factors if one.what == f"bolt_{end}"), None) if rated else None
    grade = grade_of(fastener)
    return JointBolt(
        f"{part}.{end}", fastener.diameter, fastener.yield_, grade.id if grade else None, torque_of(fastener),
        worst if worst and worst.factor is not None else None, bush,
    )  # fmt: skip
