"""What to saw, to cut and to buy, as a list."""

import csv
import io
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.cut_sheet.cut import Cut
from oak_lever.design.loads import JointKind, Sleeve, Threaded
from oak_lever.design.types import Design
from oak_lever.plates.brackets import Plate
from oak_lever.sheet.plain import plain
from oak_lever.strength.bolts import JointBolt

_NUT_AND_MORE = 1.5
"""Diameters of bolt beyond the grip: a nut, two washers and two threads (a shop's rule, rounded up)."""


@dataclass(frozen=True)
class Item:
    """A line of the list: what it is, its sizes (mm) and its material; `length` and `mass` of one, mm and kg, where it
    has them."""

    kind: str
    name: str
    what: str
    count: int
    sizes: tuple[float, ...] = ()
    material: str | None = None
    length: float | None = None
    mass: float | None = None
    note: str = ""

    @property
    def whole(self) -> str:
        """What it is with its sizes, mm, and its material."""
        sizes = " x ".join(f"{size:g}" for size in self.sizes)
        return " ".join(filter(None, (self.what, sizes, self.material)))


def parts_list(design: Design, cut: Cut) -> list[Item]:
    """Bars, plates, joints with what they are screwed or welded into, bolts, and pipes for the mock-up."""
    return [*_bars(cut), *_plates(cut), *_joints(design, cut), *_bolts(design, cut), *_dummies(cut)]


def _bars(cut: Cut) -> Iterator[Item]:
    for bar in cut.bars:
        guess = ["tube guessed"] if bar.guessed else []
        if bar.cut_length is None:
            guess.append("ends not known: no cut length")
        hands = [f"{hand} thread at the {end}" for end, hand in bar.hands.items() if hand]
        notes = [f"{bar.center_to_center:.1f} center to center", *hands, *guess]
        if bar.bends:
            notes.append(f"{len(bar.bends)} bend{'s' if len(bar.bends) > 1 else ''}")
        size = (bar.tube.diameter, bar.tube.wall)
        yield Item("bar", bar.id, "tube", 1, size, bar.tube.material, bar.cut_length, bar.mass, "; ".join(notes))


def _plates(cut: Cut) -> Iterator[Item]:
    stacked = drilled_with(cut)
    for plate in cut.plates:
        holes = Counter(f"{across:g}" for _, _, across in plate.holes)
        notes = [f"{many} hole{'s' if many > 1 else ''} of {across}" for across, many in holes.items()]
        notes += [f"cut like {plate.same_as}"] if plate.same_as else []
        notes += [f"drill stacked with {stacked[plate.part]}"] if plate.part in stacked else []
        thick = (plate.thickness,)
        yield Item("plate", plate.part, "plate", 1, thick, plate.material, None, plate.mass, "; ".join(notes))


_COAXIAL_MM = 0.05


def drilled_with(cut: Cut) -> dict[str, str]:
    """By the part's name of a plate with holes, the one that it can be clamped on and drilled with: the one that it is
    cut like; or of the two of a bracket the first, where all their holes lie on the same bolts."""
    with_holes = [plate for plate in cut.plates if plate.holes]
    pairs = {
        second.part: first.part for first, second in (one.plates for one in cut.brackets) if _coaxial(first, second)
    }
    return {plate.part: with_ for plate in with_holes if (with_ := plate.same_as or pairs.get(plate.part)) is not None}


def _coaxial(one: Plate, other: Plate) -> bool:
    if len(one.holes) != len(other.holes):
        return False
    for (u, v, across), (s, t, wide) in zip(one.holes, other.holes, strict=True):
        off = (one.origin + u * one.u + v * one.v) - (other.origin + s * other.u + t * other.v)
        if abs(across - wide) > _COAXIAL_MM or np.linalg.norm(np.cross(np.cross(one.u, one.v), off)) > _COAXIAL_MM:
            return False
    return bool(one.holes)


def _joints(design: Design, cut: Cut) -> Iterator[Item]:
    kinds = design.joints or {}
    ends = [(entry, hand) for bar in cut.bars for entry, hand in zip(bar.ends, bar.hands.values(), strict=True)]
    for (entry, hand), many in sorted(Counter(one for one in ends if one[0]).items(), key=lambda one: str(one[0])):
        kind = kinds.get(entry or "")
        thread = f"{hand} thread" if hand else ""
        yield Item("joint", entry or "", (kind.name if kind else "") or (entry or ""), many, note=thread)
        yield from _made(entry or "", kind, hand, many)


def _made(entry: str, kind: JointKind | None, hand: str | None, many: int) -> Iterator[Item]:
    end = kind.end if kind else None
    if isinstance(end, Threaded):
        sizes = tuple(one for one in (end.thread, end.pitch) if one is not None)
        note = f"{hand} thread" if hand else ""
        yield Item("bung", entry, "tube bung, thread", many, sizes, note=note)
        yield Item("nut", entry, "jam nut, thread", many, sizes, note=note)
    elif isinstance(end, Sleeve):
        yield Item("sleeve", entry, "sleeve, outside", many, (end.outside,), length=kind.width if kind else None)


def _bolts(design: Design, cut: Cut) -> Iterator[Item]:
    washers = {one.id: one.washer for one in design.brackets or ()}
    for bracket in cut.brackets:
        many = len(bracket.mounts)
        least = bracket.grip + _NUT_AND_MORE * bracket.bolt
        note = f"grip {bracket.grip:.1f}; at least that long, with nut and washers"
        yield Item("bolt", bracket.id, "bolt", many, (bracket.bolt,), length=least, note=note)
        if washers.get(bracket.id):
            yield Item("washer", bracket.id, "washer in the gap, thick", 2 * many, (washers[bracket.id],))


def _dummies(cut: Cut) -> Iterator[Item]:
    """Pipes to mock the links up with: no joints, a hole for the bolt at each end."""
    for bar in cut.bars:
        bends = "; straight, where the bar is bent" if bar.bends else ""
        note = f"hole to hole; let it run past each hole{bends}"
        yield Item(
            "dummy", bar.id, "pipe for the mock-up, a hole at each end", 1, length=bar.center_to_center, note=note
        )


def parts_csv(design: Design, cut: Cut) -> str:
    """The list (RFC 4180), a head line first, mm and kg."""
    out = io.StringIO()
    lines = csv.writer(out, lineterminator="\n")
    lines.writerow(["kind", "name", "what", "count", "length_mm", "mass_kg", "note"])
    for one in parts_list(design, cut):
        length = "" if one.length is None else f"{one.length:.1f}"
        mass = "" if one.mass is None else f"{one.mass:.3f}"
        lines.writerow([one.kind, plain(one.name), plain(one.whole), one.count, length, mass, plain(one.note)])
    return out.getvalue()


_WHEN = {True: "at ride height", False: "at any height", None: "at ride height if the joint is a bush"}


def bolts_csv(bolts: Sequence[JointBolt]) -> str:
    """The torque list (RFC 4180), a head line first, mm, MPa and N m; empty where nobody said it."""
    out = io.StringIO()
    lines = csv.writer(out, lineterminator="\n")
    lines.writerow(["mount", "diameter_mm", "yield_mpa", "torque_nm", "least_factor", "in", "tighten"])
    for one in bolts:
        factor, case = (one.worst.factor, one.worst.case_words) if one.worst else (None, "")
        figures = [(one.diameter, 3), (one.yield_stress, 0), (one.torque, 0), (factor, 2)]
        shown = ["" if value is None else f"{value:.{places}f}" for value, places in figures]
        lines.writerow([plain(one.mount), *shown, plain(case), _WHEN[one.bush]])
    return out.getvalue()
