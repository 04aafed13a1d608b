"""What can be built: mounts and eyes clear of floor, tube, housing, tires, rails, keep-outs and each other, and in
their zones; links long enough.

Nothing that is offered (a cure, a pull, settling, a start) may bring a mount where no bracket can stand. A design that
already has one there may keep it, and is not led farther in.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from oak_lever.clearance.parts import housing_of
from oak_lever.clearance.within import bounds_of_solid, outside
from oak_lever.clearance.zones import IN_MM, zones_of
from oak_lever.design.parts import Spot, parts_of
from oak_lever.design.remembered import remembered
from oak_lever.design.room import MOVING_GAP_MM, Holes, KeepOut
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats, Mechanism, mechanism_of
from oak_lever.move.coordinates import PAIR_MM, SHARED_MM, Movable, Space, spots, twin_of

EYE_MM = 32.0
"""Half of what a joint's eye with its bracket takes up: a mount's center nearer to the floor is in it."""
WALL_MM = 10.0
"""What a bracket needs between its hole and the tube or housing that it is welded to."""
BETWEEN_MM = 45.0
"""Two joints on one body nearer than this have no room for two eyes."""
SHORTEST_MM = 200.0
"""A shorter link is all rod ends: each takes up some 100 mm with its shank, jam nut and thread."""
_SAME = 1e-6


@dataclass(frozen=True)
class Clearances:
    """`names` (C) says what each is of; `by` (C, D) how much it is clear by, mm: below 0 it can't be built."""

    names: tuple[str, ...]
    by: Floats


def clearances(design: Design, mechanism: Mechanism) -> Clearances:
    """Of the mechanism's designs, which are `design` with other mounts."""
    found: list[tuple[str, Floats]] = []
    every, mounts = spots(design), mechanism.mounts
    for k, spot in enumerate(every):
        found += _mount(design, spot.name, spot.on, mounts[:, k])
        if abs(spot.at[1]) > PAIR_MM and twin_of(spot, every) is not None:
            side = 1.0 if spot.at[1] > 0 else -1.0
            found.append((f"{spot.name}: past the centerline", side * mounts[:, k, 1] - EYE_MM))
        for n in range(k):
            if every[n].on == spot.on:
                apart = np.linalg.norm(mounts[:, k] - mounts[:, n], axis=-1)
                shared = apart[0] < SHARED_MM
                words = f"{every[n].name} and {spot.name}: no room for both"
                found.append((words, np.full(len(mounts), 0.0) if shared else apart - BETWEEN_MM))
    found += _links(design, mechanism)
    found += _room(design, every, mounts)
    rows = [by for _, by in found]
    return Clearances(tuple(name for name, _ in found), np.stack(rows) if rows else np.empty((0, len(mounts))))


def builds(design: Design, now: Mechanism, moved: Mechanism) -> NDArray[np.bool_]:
    """(D,) which of the `moved` can be built as well as the design `now` can: nothing more in the way, nor more so."""
    after = clearances(design, moved).by
    return np.asarray((after >= np.minimum(_clear_now(design, now), 0.0) - _SAME).all(0))


def _clear_now(design: Design, now: Mechanism) -> Floats:
    """(C, 1) of the design as it stands."""
    return _own_clearances(design) if now is mechanism_of(design) else clearances(design, now).by[:, :1]


@remembered(4)
def _own_clearances(design: Design) -> Floats:
    return clearances(design, mechanism_of(design)).by


def fits(space: Movable, moves: Floats) -> NDArray[np.bool_]:
    """(N,) which of the moves (N, F) can be built as well as the design as it stands."""
    if isinstance(space, Space):
        return builds(space.design, space.mechanism, space.mechanism.with_mounts(space.mounts(moves)))
    moving = np.flatnonzero(np.any(space.directions.reshape(len(space.free), -1, 3) != 0.0, axis=(0, 2)))
    return can_stand(space.design, [space.spots[k] for k in moving], space.mounts(moves)[:, moving])


def in_excess(space: Movable, moves: Floats) -> Floats:
    """(N,) how much more can't be built after the moves, mm in all, than in the design as it stands."""
    if not isinstance(space, Space):
        return np.asarray(~fits(space, moves), dtype=float)
    return excess(space.design, space.mechanism.with_mounts(space.mounts(moves)))


def excess(design: Design, moved: Mechanism) -> Floats:
    """(D,) how much more of the `moved` can't be built, mm in all, than of the design as it stands."""
    more: Floats = np.maximum(np.minimum(_own_clearances(design), 0.0) - clearances(design, moved).by, 0.0).sum(0)
    return more


def can_stand(design: Design, eyes: Sequence[Spot], at: Floats) -> NDArray[np.bool_]:
    """(N,) whether eyes can stand at (N, K, 3): off the floor, on their own side, in their zones, in no keep-out that
    they are not bolted to, and not in the axle's tube, its housing or a tire, but for one that stands in it already."""
    stands = np.ones(len(at), dtype=np.bool_)
    keep_outs = design.room.keep_outs if design.room else ()
    for k, spot in enumerate(eyes):
        where = np.ascontiguousarray(at[:, k])
        stands &= (where[:, 2] >= EYE_MM) & (where[:, 1] * spot.at[1] >= 0.0)
        if not in_axle(design, np.array([spot.at]))[0]:
            stands &= ~in_axle(design, where)
        for zone in zones_of(design, spot):
            if zone.region.kind != "holes":
                stands &= outside(zone.region, where) <= IN_MM
        for one in keep_outs:
            if one.on == spot.on and spot.part not in one.except_:
                stands &= _clear_of(one, where) > 0.0
    return stands


def in_axle(design: Design, at: Floats) -> NDArray[np.bool_]:
    """(N,) whether points stand inside the axle's tube, its housing or a tire, at ride."""
    axle, (x, y, z) = design.axle, at.T
    off, out = np.hypot(x, z - axle.tire_radius_loaded), np.abs(np.abs(y) - axle.track / 2.0)
    middle, radius = housing_of(design)
    tube = (off < axle.tube_diameter / 2.0) & (np.abs(y) < axle.track / 2.0)
    tire = (off < axle.tire_diameter / 2.0) & (out < axle.tire_width / 2.0)
    inside: NDArray[np.bool_] = tube | tire | (np.linalg.norm(at - middle, axis=-1) < radius)
    return inside


_PROBES = 16


def bounds_of(space: Movable, within_mm: float) -> tuple[Floats, Floats]:
    """How far each free coordinate may go by itself, (F,) down and (F,) up, mm: to `within_mm`, or to where it could no
    longer be built."""
    count = len(space.free)
    if not count:
        return np.empty(0), np.empty(0)
    parts = np.arange(1, _PROBES + 1) / _PROBES * within_mm
    found = []
    for way in (-1.0, 1.0):
        moves = way * (parts[:, None, None] * np.eye(count)).reshape(-1, count)
        far = np.cumprod(fits(space, moves).reshape(_PROBES, count), axis=0).sum(0)
        found.append(way * far / _PROBES * within_mm)
    return found[0], found[1]


def in_the_way(design: Design, mechanism: Mechanism) -> list[str]:
    """What of one design can't be built, in words."""
    found = clearances(design, mechanism)
    return [name for name, by in zip(found.names, found.by[:, 0], strict=True) if by < -_SAME]


def _mount(design: Design, name: str, on: str, at: Floats) -> list[tuple[str, Floats]]:
    axle = design.axle
    x, y, z = at[:, 0], np.abs(at[:, 1]), at[:, 2]
    from_axis = np.hypot(x, z - axle.tire_radius_loaded)
    inside = (axle.track - axle.tire_width) / 2.0 - y - EYE_MM / 2.0
    if on == "axle":
        center, radius = housing_of(design)
        return [
            (f"{name}: below the floor", z - EYE_MM),
            (f"{name}: inside the axle tube", from_axis - axle.tube_diameter / 2.0 - WALL_MM),
            (f"{name}: inside the housing", np.linalg.norm(at - center, axis=-1) - radius),
            (f"{name}: inside a tire", inside),
        ]
    found = [
        (f"{name}: below the floor", z - np.maximum(EYE_MM, design.travel.bump)),
        (f"{name}: inside a tire", np.maximum(inside, from_axis - axle.tire_diameter / 2.0 - EYE_MM)),
    ]
    if design.rails is not None:
        found.append((f"{name}: inside a rail", _rail(design, y, z)))
    return found


def _rail(design: Design, y: Floats, z: Floats) -> Floats:
    """How far outside the rail's section, mm; below 0 inside."""
    rails = design.rails
    assert rails is not None
    outer = rails.outside_width / 2.0
    beside = np.maximum(outer - rails.flange - y, y - outer)
    over = np.maximum(rails.underside - z, z - rails.underside - rails.depth)
    return np.maximum(beside, over)


def _room(design: Design, every: Sequence[Spot], mounts: Floats) -> list[tuple[str, Floats]]:
    """Each mount's eye against what it is not bolted to and what stands on the same body; and how far it is out of the
    zone it belongs in: in a row of holes it stays in one, and a hole that is there has room for it."""
    keep_outs, found = design.room.keep_outs if design.room else (), list[tuple[str, Floats]]()
    for k, spot in enumerate(every):
        at, zones = np.ascontiguousarray(mounts[:, k]), zones_of(design, spot)
        bolted = {spot.part, spot.name.partition(".")[0]}
        found += [(f"{spot.name}: outside {zone.name or zone.id}", -outside(zone.region, at)) for zone in zones]
        if not any(isinstance(zone.region, Holes) for zone in zones):
            near = [one for one in keep_outs if one.on == spot.on and not bolted & set(one.except_)]
            found += [(f"{spot.name}: inside {one.name or one.id}", _clear_of(one, at) - EYE_MM) for one in near]
    return found


_FAR_MM = 50.0


def _clear_of(one: KeepOut, at: Floats) -> Floats:
    """(D,) how far points are from a keep-out, mm; of those far from what it all lies within, how far from that."""
    low, high = bounds_of_solid(one.solid)
    beyond = np.maximum(low - at, at - high)
    rough: Floats = np.linalg.norm(np.maximum(beyond, 0.0), axis=-1)
    return rough if rough.min(initial=np.inf) > EYE_MM + _FAR_MM else outside(one.solid, at)


def _links(design: Design, mechanism: Mechanism) -> list[tuple[str, Floats]]:
    """Each bar's length, and each tube against the axle tube and the housing, at ride."""
    found: list[tuple[str, Floats]] = []
    sizes = {body.id: body.diameter for body in parts_of(design).bodies}
    gap = design.room.gap if design.room else MOVING_GAP_MM
    middle, radius = housing_of(design)
    heads, tails = mechanism.ends
    for b, bar in enumerate(mechanism.layout.bars):
        head, tail = heads[:, b], tails[:, b]
        found.append((f"{bar.name}: too short for its joints", np.linalg.norm(head - tail, axis=-1) - SHORTEST_MM))
        if bar.rigid:
            continue
        need = sizes[bar.name] / 2.0 + gap
        found.append((f"{bar.name}: too near to the housing", _to(head, tail, np.array(middle)) - need - radius))
        if bar.kind in ("lower", "upper"):
            side = np.array([1.0, 0.0, 1.0])  # the axle's line runs across: in the side view, a point
            near = _to(head * side, tail * side, np.array([0.0, 0.0, design.axle.tire_radius_loaded]))
            found.append((f"{bar.name}: too near to the axle tube", near - need - design.axle.tube_diameter / 2.0))
    return found


def _to(head: Floats, tail: Floats, point: Floats) -> Floats:
    """(D,) least distance of a segment from a point."""
    a, along = head - point, tail - head
    part = np.clip(-(a * along).sum(-1) / np.maximum((along**2).sum(-1), _SAME), 0.0, 1.0)
    near: Floats = np.linalg.norm(a + part[:, None] * along, axis=-1)
    return near
