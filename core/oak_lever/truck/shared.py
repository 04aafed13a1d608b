"""Keep-outs that are the truck's: kept once, in the truck's axes, and seen by every design of either axle where they
stand in its own."""

from collections.abc import Sequence
from copy import deepcopy
from typing import Any

from oak_lever.design.reader import design_data
from oak_lever.design.room import move_solid
from oak_lever.design.types import Design
from oak_lever.truck.reader import truck_data, truck_from
from oak_lever.truck.types import End, Truck

Bare = dict[str, Any]
_DIGITS = 9
"""What is moved to an axle and back comes back as it was written."""


def shared_keep_outs(truck: Truck, end: End) -> list[Bare]:
    """The truck's keep-outs as plain values of a design of that axle: in its axes, marked as shared."""
    return [
        {**_moved(one, -getattr(truck.axles, end).station), "shared": True} for one in _kept(truck_data(truck))
    ]  # fmt: skip


def own_keep_outs(bare: Bare) -> None:
    """Take the truck's keep-outs out of a design's plain values; a room that held nothing else goes with them."""
    room = bare.get("room")
    if not room or "keep_outs" not in room:
        return
    room["keep_outs"] = [one for one in room["keep_outs"] if not one.get("shared")]
    if room == {"keep_outs": []}:
        del bare["room"]


def with_shared(bare: Bare, keep_outs: Sequence[Bare]) -> None:
    """Put shared keep-outs into a design's plain values, after its own; one that the design has of its own by that name
    stands there in its place."""
    own_keep_outs(bare)
    seen = _seen(keep_outs, _kept(bare))
    if seen:
        room = bare["room"] = bare.get("room") or {}
        room["keep_outs"] = [*room.get("keep_outs", []), *deepcopy(seen)]


def taken_keep_outs(truck: Truck, design: Design, only_new: bool = False) -> Truck:
    """The truck with its keep-outs as a design has them; the same truck where they stand as they did. `only_new`: those
    that the truck has under another's name stay as they are, and none is taken away.

    Raises:
        Refused: where that makes no truck.
    """
    station = getattr(truck.axles, design.axle.end).station
    every = _kept(design_data(design))
    here, own = ([one for one in every if bool(one.get("shared")) == shared] for shared in (True, False))
    if not only_new and here == _seen(shared_keep_outs(truck, design.axle.end), own):
        return truck
    data = truck_data(truck)
    kept = _kept(data)
    hidden = [one for one in kept if one["id"] in {mine["id"] for mine in own}]
    found = [{key: value for key, value in _moved(one, station).items() if key != "shared"} for one in here]
    if only_new:
        here_by_id = {one["id"]: one for one in found}
        known = {one["id"] for one in kept}
        both = [_bolted(one, here_by_id[one["id"]]) if one["id"] in here_by_id else one for one in kept]
        found = [*both, *(one for one in found if one["id"] not in known)]
        if found == kept:
            return truck
    else:
        found += hidden
    data["room"] = {**(data.get("room") or {}), "keep_outs": found}
    return truck_from(data)


def _kept(data: Bare) -> list[Bare]:
    found: list[Bare] = (data.get("room") or {}).get("keep_outs", [])
    return found


def _seen(shared: Sequence[Bare], own: Sequence[Bare]) -> list[Bare]:
    names = {one["id"] for one in own}
    return [one for one in shared if one["id"] not in names]


def _bolted(kept: Bare, here: Bare) -> Bare:
    """A keep-out that both have: not held against what is bolted to it at either axle."""
    more = [name for name in here.get("except", []) if name not in kept.get("except", [])]
    return {**kept, "except": [*kept.get("except", []), *more]} if more else kept


def _moved(one: Bare, by: float) -> Bare:
    found = deepcopy(one)
    move_solid(found["solid"], (by, 0.0, 0.0))
    found["solid"] = _rounded(found["solid"])
    return found


def _rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, _DIGITS)
    if isinstance(value, list):
        return [_rounded(one) for one in value]
    return {key: _rounded(one) for key, one in value.items()} if isinstance(value, dict) else value
