"""What changed between two revisions of a design, as a shop would say it."""

from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel

from oak_lever.design.parts import Spot, parts_of, words_of
from oak_lever.design.types import Design
from oak_lever.move.coordinates import AXES, PAIR_MM, Axis, twin_of

_PLAIN = {
    "name": "name", "notes": "notes", "axle": "axle and tires", "vehicle": "truck", "travel": "travel",
    "rails": "frame rails", "use": "use", "school": "school", "bands": "bands", "locks": "locks",
    "unpaired": "pairing", "joints": "joint catalog",
}  # fmt: skip


_RUNNING = {
    "corners": "sizes of springs, shocks, stops or straps", "driveshaft": "driveshaft", "steering": "steering",
    "hand": "readings of the hand cycle",
}  # fmt: skip


@dataclass(frozen=True)
class Change:
    """Either mounts moved along an axis by so many mm (a pair said once; `by` is the first one's, so a pair moved apart
    has the sign of the left), or something else that changed, in words."""

    what: str
    axis: Axis | None = None
    by: float | None = None


def changes(before: Design, after: Design) -> list[Change]:
    """The changes from one revision to the next, in the order of the file."""
    found: list[Change] = []
    old, new = ({spot.name: spot for spot in parts_of(design).spots} for design in (before, after))
    if list(old) != list(new):
        found.append(Change("links, locators and what else has mounts"))
    both = [spot for spot in new.values() if spot.name in old]
    done: set[tuple[str, str]] = set()
    for spot in both:
        twin = twin_of(spot, both)
        for a, axis in enumerate(AXES):
            by = spot.at[a] - old[spot.name].at[a]
            if abs(by) < PAIR_MM or (spot.name, axis) in done:
                continue
            pair = twin is not None and abs(abs(twin.at[a] - old[twin.name].at[a]) - abs(by)) < PAIR_MM
            if pair and twin is not None:
                done.add((twin.name, axis))
            found.append(Change(_said(spot, pair), axis, by if axis != "y" or spot.at[1] >= 0 else -by))
    found += [Change(what) for what in _joints(before, after)]
    for key, words in _RUNNING.items():
        if _sizes(getattr(before, key)) != _sizes(getattr(after, key)):
            found.append(Change(words))
    for key, words in _PLAIN.items():
        if getattr(before, key) != getattr(after, key):
            found.append(Change(words))
    return found


_POINTS = frozenset(("at", "joint", "bolt", "pitman", "knuckle", "tie_rod", "pivot", "arm", "link"))


def _sizes(part: Any) -> Any:
    """What there is of a part beside where its points stand and what their ends are, which is said of each."""
    if isinstance(part, BaseModel):
        return {key: _sizes(value) for key, value in part if key not in _POINTS}
    return [_sizes(one) for one in part] if isinstance(part, list | tuple) else part


def _joints(before: Design, after: Design) -> list[str]:
    """Ends whose bolt or joint is another."""
    old, new = (
        {end.name: (body, end) for body in parts_of(design).bodies for end in (body.a, body.b)}
        for design in (before, after)
    )
    said = []
    for name in new:
        if name in old:
            (_, was), (body, now) = old[name], new[name]
            what = [word for word, a, b in (("bolt", was.bolt, now.bolt), ("joint", was.joint, now.joint)) if a != b]
            if what:
                said.append(f"{body.words}, {now.on} end: {' and '.join(what)}")
    return said


def _said(spot: Spot, pair: bool) -> str:
    name, _, end = spot.name.partition(".")
    words = words_of(name)
    if pair:
        words = " ".join(word for word in words.split() if word not in ("left", "right"))
    return f"{words} {end.replace('.', ' ')} mount{'s' if pair else ''}"
