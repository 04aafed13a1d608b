"""Strength of a bar: stress, yield and buckling of its tube, its joints, bolts and threaded shanks. N, mm, MPa.

Beam-columns by the secant's first term (amplified moment M / (1 - C/Pe)); columns by Euler, and by Johnson below the
slenderness where the two meet; a bolt in shear at 0.577 of its yield; a thread by its minor diameter (Shigley, chapters
4 and 8).
"""

from dataclasses import dataclass
from math import hypot, inf, isfinite, pi, sqrt

import numpy as np

from oak_lever.design.faults import Fault, Refused
from oak_lever.design.links import TUBE_MM, WALL_MM, Tube
from oak_lever.design.loads import Fastener, JointKind, Material, Threaded
from oak_lever.design.materials import entry_of
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats

_SHEAR = 0.577
_MINOR = 1.2269
"""Of a 60 degree thread: diameter less this many pitches is its minor diameter."""
_NO_FORCE_N = 0.01
Strength = dict[str, float | None]


@dataclass(frozen=True)
class Section:
    """A round tube: area, second moment, half its diameter; and what it is of."""

    area: float
    inertia: float
    half: float
    material: Material


def material_of(design: Design, tube: Tube | None, path: str) -> Material:
    """The tube's material; the house's where it says none.

    Raises:
        Refused: for an entry that the design has not.
    """
    return entry_of(design, tube.material if tube else None, f"{path}.tube.material")


def section_of(design: Design, tube: Tube | None, path: str) -> Section:
    """The tube's section; one of the standard tube where there is none."""
    across, wall = (tube.diameter, tube.wall) if tube else (TUBE_MM, WALL_MM)
    inner = max(across - 2.0 * wall, 0.0)
    return Section(
        pi / 4.0 * (across**2 - inner**2), pi / 64.0 * (across**4 - inner**4), across / 2.0,
        material_of(design, tube, path),
    )  # fmt: skip


@dataclass(frozen=True)
class Pressed:
    """A place of a bar: its tension T, N, the moment there, N mm, and the Euler load of the whole, N."""

    tension: float
    moment: float
    euler: float

    @property
    def pushed(self) -> float:
        return max(-self.tension, 0.0)


def euler_of(section: Section, long: float) -> float:
    """The Euler load of a bar between pinned ends, N."""
    return pi**2 * section.material.modulus * section.inertia / long**2


def tube_strength(section: Section, places: list[Pressed], long: float) -> Strength:
    """Of the worst of its places: `stress` MPa (None: past the Euler load at one), `yield`, `buckling`."""
    stresses = [_stress(section, one) for one in places]
    factors = [one for one in (_yield(section, place) for place in places) if isfinite(one)]
    pushed = max(place.pushed for place in places)
    return {
        "stress": None if any(one is None for one in stresses) else max(one for one in stresses if one is not None),
        "yield": min(factors, default=None),
        "buckling": buckling(section, pushed, long) if pushed > _NO_FORCE_N else None,
    }


def _stress(section: Section, place: Pressed) -> float | None:
    if place.pushed >= place.euler:
        return None
    bend = place.moment * section.half / (section.inertia * (1.0 - place.pushed / place.euler))
    return abs(place.tension) / section.area + bend


def _yield(section: Section, place: Pressed) -> float:
    """How many times its load brings it to yield: the lesser root of a k n^2 - (a + m + y k) n + y = 0, with a and m
    the stresses of tension and moment, k the load in Euler loads."""
    a, m = abs(place.tension) / section.area, place.moment * section.half / section.inertia
    if abs(place.tension) < _NO_FORCE_N and m * section.area < _NO_FORCE_N:
        return inf
    limit, k = section.material.yield_, place.pushed / place.euler
    b = a + m + limit * k
    return 2.0 * limit / (b + sqrt(max(b * b - 4.0 * a * k * limit, 0.0)))


def buckling(section: Section, pushed: float, long: float) -> float:
    """The column's critical load by Euler or Johnson over what pushes it."""
    material = section.material
    slender = long / sqrt(section.inertia / section.area)
    meets = sqrt(2.0 * pi**2 * material.modulus / material.yield_)
    if slender >= meets:
        critical = pi**2 * material.modulus / slender**2
    else:
        critical = material.yield_ * (1.0 - material.yield_ * slender**2 / (4.0 * pi**2 * material.modulus))
    return critical * section.area / pushed


def joint_factor(kind: JointKind | None, force: float) -> float | None:
    """Its rating over the force on it; None without a rating or a force."""
    if kind is None or kind.rating is None or force <= _NO_FORCE_N:
        return None
    return kind.rating / force


def bolt_factor(fastener: Fastener | None, force: float) -> float | None:
    """The bolt in shear."""
    if fastener is None or force <= _NO_FORCE_N:
        return None
    return _SHEAR * fastener.yield_ * fastener.planes * pi * fastener.diameter**2 / 4.0 / force


def shank_factor(kind: JointKind | None, force: Floats, leg: Floats) -> float | None:
    """A threaded end's shank under the whole force on it (3,), by the way (3,) of the bar's leg there: drawn or pressed
    along, bent by what is across over its longest reach.

    Raises:
        Refused: for a thread that is all pitch.
    """
    end = kind.end if kind else None
    if not isinstance(end, Threaded) or end.thread is None or end.yield_ is None or end.pitch is None:
        return None
    if end.shank is None or end.least_in is None:
        return None
    minor = end.thread - _MINOR * end.pitch
    if minor <= 0.0:
        raise Refused([Fault("joints", f"a thread of {end.thread:g} mm has no core at a pitch of {end.pitch:g} mm")])
    if float(np.linalg.norm(force)) <= _NO_FORCE_N:
        return None
    along = float(force @ leg)
    across = hypot(*(force - along * leg))
    reach = max(end.shank - end.least_in, 0.0)
    stress = abs(along) / (pi * minor**2 / 4.0) + across * reach / (pi * minor**3 / 32.0)
    return end.yield_ / stress
