"""How far values go from one twist to the other, travel by travel, as far as stops and straps let the axle twist."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from oak_lever.figures.allowed import HAIR_MM, at_part, part_left
from oak_lever.motion.mechanism import Floats, Ints

_Three = tuple[Ints, Ints, Ints]


@dataclass(frozen=True)
class _Way:
    """The steps of a fan one way: the twists before, inside and outside each step (W - 1,), how far along it a stop or
    strap ends it (D, R, W - 1), the twist there, and whether it ends there at all."""

    along: _Three
    part: Floats
    twist: Floats
    ends: NDArray[np.bool_]


@dataclass(frozen=True)
class Fan:
    """R travels, each with W twists, of D designs: what each stop and strap has `left` there (S, D, R, W), mm; the
    `travel`, mm, and `twist`, degrees, of each (R, W)."""

    left: Floats
    travel: Floats
    twist: Floats

    @cached_property
    def _held(self) -> NDArray[np.bool_]:
        return np.asarray((self.left >= -HAIR_MM).all(0))

    @cached_property
    def _ways(self) -> tuple[_Way, _Way]:
        return self._way(1), self._way(-1)

    def _way(self, way: int) -> _Way:
        every = np.arange(self.twist.shape[-1])[::way]
        inside, outside = every[:-1], every[1:]
        along = np.concatenate([inside[:1], inside[:-1]]), inside, outside
        part = part_left(*_at(self.left, along))
        twist = at_part(*_at(self.twist, along), part)
        return _Way(along, part, twist, self._held[..., inside] & ~self._held[..., outside])

    @cached_property
    def _twists(self) -> Floats:
        whole = np.broadcast_to(self.twist, self._held.shape)
        return np.concatenate([whole, *(way.twist for way in self._ways)], axis=-1)

    def spreads(self, values: Floats) -> tuple[Floats, Floats]:
        """Of values (D, R, W): (D, R) highest less lowest of what is allowed at each travel, -1 where nothing is; and
        (D, R, 2) the travel and twist of what is farthest from what it is straight."""
        known = ~np.isnan(values)
        every, has = [values], [self._held & known]
        for way in self._ways:
            _, inside, outside = way.along
            every.append(at_part(*_at(values, way.along), way.part))
            has.append(way.ends & known[..., inside] & known[..., outside])
        of, allowed = np.concatenate(every, axis=-1), np.concatenate(has, axis=-1)
        high, low = np.where(allowed, of, -np.inf).max(-1), np.where(allowed, of, np.inf).min(-1)
        straight: Floats = np.nan_to_num(values[..., values.shape[-1] // 2])
        far = np.where(allowed, np.abs(of - straight[..., None]), -1.0).argmax(-1)[..., None]
        farthest = np.take_along_axis(self._twists, far, -1)[..., 0]
        travel = np.broadcast_to(self.travel[:, 0], farthest.shape)
        return np.where(allowed.any(-1), high - low, -1.0), np.stack([travel, farthest], axis=-1)

    @cached_property
    def between(self) -> "Fan":
        """Travels in proportion between these, `BETWEEN` to each step."""
        with np.errstate(invalid="ignore"):
            return Fan(between(self.left), between(self.travel), between(self.twist))


def _at(values: Floats, along: _Three) -> tuple[Floats, Floats, Floats]:
    before, inside, outside = along
    return values[..., before], values[..., inside], values[..., outside]


BETWEEN = 4
"""So many rows a step of the map are looked at where stops and straps end it: in proportion between those solved."""
_PARTS = np.linspace(0.0, 1.0, BETWEEN, endpoint=False)[1:, None]


def between(rows: Floats) -> Floats:
    """(..., R, W) rows in proportion between some, `BETWEEN` to each step."""
    behind = np.concatenate([rows[..., :1, :], rows[..., :-2, :]], axis=-2)
    before, low, high = (one[..., None, :] for one in (behind, rows[..., :-1, :], rows[..., 1:, :]))
    with np.errstate(invalid="ignore"):
        out = at_part(before, low, high, _PARTS)
    return out.reshape(*rows.shape[:-2], -1, rows.shape[-1])
