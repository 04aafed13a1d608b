"""How the ends of a bar are made: where a threaded end's nut leaves it, and what an end takes off the tube."""

from dataclasses import dataclass
from math import asin, degrees, sqrt

import numpy as np

from oak_lever.design.loads import JointKind, Sleeve, Threaded
from oak_lever.motion.mechanism import Floats

SQUARE_DEG = 5.0
"""A sleeve whose bolt is farther than this from square to its tube can't be coped for as one that is square."""


@dataclass(frozen=True)
class Made:
    """An end as made, mm: what it takes off the tube; how much shorter and longer its thread lets the bar become; what
    a cope adds to the tube before it is cut."""

    takes: float
    shorter: float = 0.0
    longer: float = 0.0
    cope: float = 0.0


def end_made(kind: JointKind | None, tube: float, bolt: Floats | None, leg: Floats) -> Made | str | None:
    """An end with that entry of the joint catalog on a tube of that diameter, its leg's unit way (3,) square to the
    bolt (3,) or not (None: the bolt is square as it is made). None: how it is made is not known; words: it can't be."""
    end = kind.end if kind else None
    if isinstance(end, Sleeve):
        return _sleeve(end, tube, bolt, leg)
    return None if end is None else _threaded(end)


def _threaded(end: Threaded) -> Made | str | None:
    """The nut halfway between as near as it goes and as far as the least of the shank that must be in lets it."""
    if end.shank is None or end.shoulder is None or end.nut is None or end.least_in is None or end.pitch is None:
        return None
    near, far = end.shoulder + end.nut, end.shank - end.least_in
    if near > far:
        return (
            f"its shank of {end.shank:g} mm leaves no thread between its nut ({near:g} mm) and the {end.least_in:g} mm "
            "that must be in; take a longer shank"
        )
    x = (near + far) / 2.0
    return Made(x + end.flange, x - near, far - x)


def _sleeve(end: Sleeve, tube: float, bolt: Floats | None, leg: Floats) -> Made | str:
    half = end.outside / 2.0
    if bolt is not None:
        off = degrees(asin(min(abs(float(bolt @ leg)) / float(np.linalg.norm(bolt)), 1.0)))
        if off > SQUARE_DEG:
            return f"its bolt lies {off:.1f} degrees off square to the tube; a sleeve is welded square, within 5"
    return Made(half, cope=half - sqrt(max(half**2 - (tube / 2.0) ** 2, 0.0)) if tube <= end.outside else half)
