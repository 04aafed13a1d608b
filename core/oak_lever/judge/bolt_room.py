"""Bolts that can't be got in or out, or held with a wrench, judged like any other figure."""

from oak_lever.clearance.bolts import BoltRoom, bolt_rooms
from oak_lever.design.parts import part_said, parts_of, said
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID
from oak_lever.judge.check import FIX, ROUNDING, Check, band_of
from oak_lever.judge.gaps import Listed
from oak_lever.judge.places import Place


@remembered(8)
def bolt_checks(design: Design) -> Listed:
    """Each bracket's bolt with less room than is wanted."""
    (low, _), source = band_of(design, BY_ID["bolt_room"])
    if not design.brackets or low is None:
        return ()
    return tuple(
        (_check(design, one, low, source), None) for one in bolt_rooms(design) if one.free < low - ROUNDING
    )  # fmt: skip


def _check(design: Design, one: BoltRoom, low: float, source: str) -> Check:
    spot = next(spot for spot in parts_of(design).spots if spot.name == one.mount)
    mount = f"{said(design, spot.part)}, {spot.words}"
    return Check(
        BY_ID["bolt_room"], f"{one.bracket} {one.mount}", one.free, Place(0.0, 0.0, (one.mount,)), low, None, source,
        FIX, -1, title=f"{mount[:1].upper()}{mount[1:]}: no room for its bolt or a wrench",
        told=f"In the way at ride: {part_said(design, one.against)}.",
    )  # fmt: skip
