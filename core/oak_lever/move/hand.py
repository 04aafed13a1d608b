"""A hand cycle held against the prediction: jack heights and what was measured there, where they part from what the
links say, and which single slip would explain it best."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.batch import figures_of_many
from oak_lever.design.faults import Refused
from oak_lever.design.hand import HandReading
from oak_lever.design.parts import parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.trace import Plan
from oak_lever.move.coordinates import Coordinate, Space, coordinates
from oak_lever.move.slopes import slopes
from oak_lever.move.words import ends_said, way_said

SIGMA: dict[str, float] = {"pinion_change": 0.3, "caster_change": 0.3, "axle_x": 2.0, "axle_y": 2.0, "yaw": 0.2}
"""What a gauge or a tape is off by, degrees or mm: how far apart a reading and a prediction may be and agree."""
_MOST_MM = 40.0
"""A tape error larger than this is no tape error."""
_BETTER = 0.7
"""An explanation that leaves more than this part of what was unexplained is none."""
_MOST = 6


@dataclass(frozen=True)
class Laid:
    """A reading by its place in the list, beside its prediction; None where the links do not reach. `parts`: by more
    than gauge and tape explain."""

    reading: int
    predicted: float | None
    parts: bool


@dataclass(frozen=True)
class Explanation:
    """A slip that would explain it: in words, by how much (mm), and what part of what parts it would leave (0 to 1)."""

    words: str
    by: float
    left: float


@dataclass(frozen=True)
class HandCheck:
    laid: tuple[Laid, ...]
    explained: tuple[Explanation, ...]


def hand_check(design: Design) -> HandCheck:
    """The design's hand readings beside predictions, and single slips ranked by how little they would leave
    unexplained: a mount that stands elsewhere than was typed, two sides swapped, another loaded radius. None where
    all agree."""
    readings = design.hand or ()
    if not readings:
        return HandCheck((), ())
    predicted = _predicted(design, readings, mechanism_of(design).mounts)[0]
    measured = np.array([one.value for one in readings])
    sigma = np.array([SIGMA[one.figure] for one in readings])
    off = (measured - predicted) / sigma
    known = ~np.isnan(off)
    laid = tuple(
        Laid(n, None if np.isnan(p) else float(p), bool(abs(o) > 2.0))
        for n, (p, o) in enumerate(zip(predicted, np.nan_to_num(off), strict=True))
    )
    if not any(one.parts for one in laid):
        return HandCheck(laid, ())
    return HandCheck(laid, tuple(_explained(design, readings, off, known, sigma)))


def _predicted(design: Design, readings: Sequence[HandReading], mounts: Floats) -> Floats:
    """(D, R) by designs with other mounts (D, K, 3); fore-aft and sideways from where it is at ride."""
    plan = Plan()
    places = [plan.pose(one.travel, one.articulation) for one in readings]
    names = sorted({one.figure for one in readings})
    found, _ = figures_of_many(design, mounts, plan.poses(), names)
    columns = [found[one.figure][:, place] - (found[one.figure][:, 0] if one.figure in ("axle_x", "axle_y") else 0.0)
               for one, place in zip(readings, places, strict=True)]  # fmt: skip
    out: Floats = np.stack(columns, axis=-1)
    return out


def _explained(
    design: Design, readings: Sequence[HandReading], off: Floats, known: np.ndarray, sigma: Floats
) -> Iterator[Explanation]:
    found: list[Explanation] = []
    space = Space(design, _each(design))
    if space.free:

        def values(moves: Floats) -> Floats:
            return _predicted(design, readings, space.mounts(moves)) / sigma

        _, slope = slopes(values, np.zeros(len(space.free)))
        for c, coordinate in enumerate(space.free):
            way = slope[known, c]
            if not np.isfinite(way).all() or float(way @ way) < 1e-12:
                continue
            by = float(way @ off[known] / (way @ way))
            left = float(np.linalg.norm(off[known] - by * way) / np.linalg.norm(off[known]))
            if abs(by) <= _MOST_MM and left < _BETTER:
                found.append(Explanation(_tape(design, coordinate, by), abs(by), left))
    for words, changed in _swapped(design):
        other = _predicted(changed, readings, mechanism_of(changed).mounts)[0] / sigma
        now = _predicted(design, readings, mechanism_of(design).mounts)[0] / sigma
        left = float(np.linalg.norm((off + now - other)[known]) / np.linalg.norm(off[known]))
        if np.isfinite(left) and left < _BETTER:
            found.append(Explanation(words, 0.0, left))
    yield from sorted(found, key=lambda one: one.left)[:_MOST]


def _each(design: Design) -> list[Coordinate]:
    """Every mount alone along each axis: a slip of the tape is made on one of them."""
    free = design.rewritten(
        locks=None, unpaired=tuple(spot.name for spot in parts_of(design).spots if spot.holds) or None
    )
    return coordinates(free)


def _tape(design: Design, coordinate: Coordinate, by: float) -> str:
    first = parts_of(design).spot(coordinate.mounts[0])
    way = way_said(first, False, coordinate.axis, by)
    return f"the {ends_said(design, coordinate.mounts[:1])} stands farther {way} than was typed"


def _swapped(design: Design) -> Iterator[tuple[str, Design]]:
    """Left and right changed over at one end of the links of a kind."""
    data = design_data(design)
    for kind in ("lower", "upper"):
        links = [n for n, link in enumerate(data["links"]) if link["kind"] == kind]
        if len(links) != 2:
            continue
        for end in ("axle", "frame"):
            one, other = (data["links"][n][end]["at"] for n in links)
            if one == [other[0], -other[1], other[2]]:
                continue
            copy = design_data(design)
            copy["links"][links[0]][end]["at"], copy["links"][links[1]][end]["at"] = (
                [other[0], -other[1], other[2]], [one[0], -one[1], one[2]],
            )  # fmt: skip
            try:
                yield f"the {kind} links' {end} ends have their sides swapped", design_from(copy)
            except Refused:
                continue
