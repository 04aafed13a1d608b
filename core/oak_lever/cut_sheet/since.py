"""What of that which is sawn, cut, drilled and bought is otherwise in a design than it was in an earlier one."""

from collections.abc import Callable, Iterator, Mapping
from itertools import zip_longest
from math import hypot
from typing import TypeVar

from oak_lever.cut_sheet.bars import CutBar
from oak_lever.cut_sheet.cut import Cut, cut
from oak_lever.design.links import Mount
from oak_lever.design.parts import parts_of, said
from oak_lever.design.types import Design
from oak_lever.plates.brackets import CutBracket, Plate
from oak_lever.strength.bracketed import bracket_words
from oak_lever.strength.judged import joint_mounts
from oak_lever.units import Units, length, stress

_SAME_MM = 0.05
"""Lengths and places within this are the same: no saw and no drill tells them apart."""
_SAME_MM2 = 1.0
_T = TypeVar("_T")


def cut_since(before: Design, now: Design, units: Units) -> list[str]:
    """A line for each part that is made otherwise, is new or is made no more; empty where nothing is."""
    was, is_ = cut(before), cut(now)
    return [
        *_each(_bars(was), _bars(is_), lambda name: said(now, name), lambda name: said(before, name), _bar(units),
            {body.id for body in parts_of(now).bodies}),
        *_each(
            {one.id: one for one in was.brackets}, {one.id: one for one in is_.brackets},
            lambda name: _named(now, name), lambda name: _named(before, name), _bracket(units),
            {one.id for one in now.brackets or ()},
        ),
        *_each(
            {one.part: one for one in was.truss}, {one.part: one for one in is_.truss}, _of_truss, _of_truss,
            lambda one, other: _plate(one, other, units), {one.part for one in was.truss} if now.truss else set(),
        ),
        *_bolts(before, now, units),
    ]  # fmt: skip


def _of_truss(part: str) -> str:
    return f"plate {part}"


def _bars(made: Cut) -> dict[str, CutBar]:
    return {one.id: one for one in made.bars}


def _each(
    was: Mapping[str, _T], now: Mapping[str, _T], words: Callable[[str], str], old_words: Callable[[str], str],
    changes: Callable[[_T, _T], Iterator[str]], drawn: set[str],
) -> Iterator[str]:  # fmt: skip
    for name, one in now.items():
        told = list(changes(was[name], one)) if name in was else ["new"]
        if told:
            yield f"{_capital(words(name))}: {'; '.join(told)}"
    for name in was:
        if name not in now:
            why = "cannot be made as it is drawn now" if name in drawn else "made no more"
            yield f"{_capital(old_words(name))}: {why}"


def _named(design: Design, name: str) -> str:
    return next((bracket_words(design, one) for one in design.brackets or () if one.id == name), f"bracket {name}")


def _bar(units: Units) -> Callable[[CutBar, CutBar], Iterator[str]]:
    def changes(was: CutBar, now: CutBar) -> Iterator[str]:
        known = was.cut_length is not None and now.cut_length is not None
        lengths = (was.cut_length, now.cut_length) if known else (was.center_to_center, now.center_to_center)
        more = (lengths[1] or 0.0) - (lengths[0] or 0.0)
        if abs(more) > _SAME_MM:
            what = "" if known else " center to center"
            yield f"{length(abs(more), units)} {'longer' if more > 0.0 else 'shorter'}{what}"
        sizes = [(one.tube.diameter, one.tube.wall, one.tube.material) for one in (was, now)]
        if sizes[0] != sizes[1]:
            across, wall, steel = sizes[1]
            yield f"of tube {length(across, units)} by {length(wall, units)}{f', {steel}' if steel else ''}"
        yield from (
            f"another {what} at the {end}"
            for n, end in enumerate(("axle", "frame"))
            for what, one, other in (("end", was.ends[n], now.ends[n]), ("thread", was.hands[end], now.hands[end]))
            if one != other
        )
        if any(
            one is None or other is None or abs(one.straight - other.straight) > _SAME_MM
            or abs(one.angle - other.angle) > _SAME_MM or abs(one.rotation - other.rotation) > _SAME_MM
            for one, other in zip_longest(was.bends, now.bends)
        ):  # fmt: skip
            yield "bent otherwise" if now.bends else "straight"

    return changes


def _bracket(units: Units) -> Callable[[CutBracket, CutBracket], Iterator[str]]:
    def changes(was: CutBracket, now: CutBracket) -> Iterator[str]:
        wider = now.gap - was.gap
        if abs(wider) > _SAME_MM:
            yield f"its plates {length(abs(wider), units)} {'farther apart' if wider > 0.0 else 'nearer together'}"
        yield from dict.fromkeys(
            words for one, other in zip(was.plates, now.plates, strict=True) for words in _plate(one, other, units)
        )

    return changes


def _plate(was: Plate, now: Plate, units: Units) -> Iterator[str]:
    if abs(was.thickness - now.thickness) > _SAME_MM:
        yield f"plate {length(now.thickness, units)} thick"
    if was.material != now.material:
        yield f"of {now.material or 'a steel that is not said'}"
    if len(was.holes) != len(now.holes):
        more = len(now.holes) - len(was.holes)
        yield f"{abs(more)} hole{'s' if abs(more) > 1 else ''} {'more' if more > 0 else 'fewer'}"
    elif any(hypot(a[0] - b[0], a[1] - b[1]) > _SAME_MM for a, b in zip(was.holes, now.holes, strict=True)):
        yield "its holes apart otherwise"
    if any(abs(a[2] - b[2]) > _SAME_MM for a, b in zip(was.holes, now.holes, strict=False)):
        yield "holes drilled to another size"
    if abs(was.area - now.area) > _SAME_MM2:
        yield "its outline otherwise"
    ways = [tuple(round(float(v), 4) for v in (*one.origin, *one.u)) for one in (was, now)]
    if ways[0] != ways[1] and was.thickness == now.thickness:  # a thicker plate's middle stands elsewhere by itself
        yield "stands elsewhere"


def _bolts(before: Design, now: Design, units: Units) -> Iterator[str]:
    was = {(part, end): _fastener(mount) for part, end, mount in joint_mounts(before)}
    for part, end, mount in joint_mounts(now):
        bolt = _fastener(mount)
        if bolt is not None and was.get((part, end), bolt) != bolt:
            across, steel, planes = bolt
            name = f"{said(now, part)} at the {end}"
            yield f"Bolt of the {name}: {length(across, units)}, {stress(steel)}, sheared in {planes:g}"


def _fastener(mount: Mount) -> tuple[float, float, float] | None:
    bolt = mount.fastener
    return None if bolt is None else (bolt.diameter, bolt.yield_, bolt.planes)


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
