"""What would carry a truck where every spring of the steps hangs loose in droop."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import ceil, floor
from typing import Any

import numpy as np

from oak_lever.design.reader import design_data
from oak_lever.design.running_gear import Shock, Spring
from oak_lever.design.types import Design
from oak_lever.figures.forces import pressed_by
from oak_lever.figures.sit import LB_IN, Along, Sitting, resprung, shocks_of, with_shocks

_SEATED_MM = 5.0
"""How far a spring that is offered is still pressed at full droop, at least."""
_STEP_N_MM = 0.5
_SOFTEST_N_MM = 3.0
_HAIR_MM = 0.05
_SITS_MM = 1.0


@dataclass(frozen=True)
class Instead:
    """What would do, in words, and the design so: it sits where it is wanted, and its springs are pressed at full
    droop, or at what then ends the droop."""

    words: str
    document: dict[str, Any]


@dataclass(frozen=True)
class _Asked:
    """Which springs; one of them along the travel; what each has to push with (N) for the axle to sit at `wanted`
    (mm of travel), and how much longer the open shock is than it is there."""

    names: Sequence[str]
    one: Along
    force: float
    wanted: float
    room: float

    @property
    def spring(self) -> Spring:
        assert self.one[0].spring is not None
        return self.one[0].spring


def instead(sitting: Sitting, names: Sequence[str], wanted: float = 0.0) -> list[Instead]:
    """A softer spring with preload, a second spring on a slider, straps that end the droop where the spring comes
    loose: each is tried, and only what then sits within 1 mm of the travel `wanted` and stays seated is offered. None
    where some rate of the steps stays seated, or where nothing helps."""
    own = [one for one in sitting.every if one[0].id in names and one[0].spring and not one[0].spring.second]
    if not own or any("loose" not in one.against for one in sitting.offered(names, wanted)):
        return []
    force = _each_carries(sitting, names, wanted)
    shock, length, slope = own[0]
    room = shock.extended - float(sitting.travelled.at(length, slope, np.array([wanted]))[0][0])
    if force <= 0.0 or room <= 0.0:
        return []
    asked = _Asked(names, own[0], force, wanted, room)
    return [*_softer(sitting, asked), *_stacked(sitting, asked), *_strapped(sitting, asked)]


def _each_carries(sitting: Sitting, names: Sequence[str], wanted: float) -> float:
    """What each of these springs has to push with for the truck to sit at a travel, N; 0 where none has."""
    at = np.array([wanted])
    others = sum(float(sitting.lift(one, at)[0]) for one in sitting.shocks if one[0].id not in names)
    ratios = [
        -float(sitting.travelled.at(length, slope, at)[1][0]) for one, length, slope in sitting.every if one.id in names
    ]
    left = sitting.weight(None) - others
    return left / sum(ratios) if sum(ratios) > 0.0 else 0.0


def _held(words: str, design: Design, wanted: float) -> Iterator[Instead]:
    """The design, if it sits there and its springs stay pressed down to where the droop ends."""
    sitting = Sitting(design)
    travel, limit = sitting.travelled.settles_at(), sitting.travelled.limits()["droop"]
    if travel is None or abs(travel - wanted) > _SITS_MM:
        return
    lowest = np.array([-design.travel.droop if limit is None else float(limit["travel"])])
    for shock, length, slope in sitting.shocks:
        longest = float(sitting.travelled.at(length, slope, lowest)[0][0])
        if shock.spring and shock.spring.preload + shock.extended - longest < -_HAIR_MM:
            return
    yield Instead(words, design_data(design))


def _softer(sitting: Sitting, asked: _Asked) -> Iterator[Instead]:
    rate = _STEP_N_MM * floor(asked.force / (asked.room + _SEATED_MM) / _STEP_N_MM)
    if rate >= _SOFTEST_N_MM:
        preload = asked.force / rate - asked.room
        words = f"a softer spring, {_rate(rate)}, preloaded {preload:.0f} mm"
        yield from _held(words, resprung(sitting.design, asked.names, rate, preload), asked.wanted)


def _stacked(sitting: Sitting, asked: _Asked) -> Iterator[Instead]:
    """A second spring whose slider has stopped at ride, so that the first alone carries from there."""
    rate = asked.spring.rate
    if rate <= 0.0:
        return
    slide = float(ceil(asked.room - asked.force / rate + _SEATED_MM))
    second = {"rate": round(0.5 * asked.force / slide, 1), "slide": slide} if slide > 0.0 else {"rate": 0.0}
    if second["rate"] <= 0.0:
        return
    preload = pressed_by(asked.spring.rewritten(second=second), asked.force) - asked.room

    def stacked(shock: Shock) -> Shock:
        assert shock.spring is not None
        spring = shock.spring.rewritten(preload=preload, second=second, solid=shock.spring.solid + slide)
        return shock.rewritten(spring=spring)

    words = (
        f"a second spring, {_rate(second['rate'])}, on a slider that stops after {slide:.0f} mm, the stack preloaded "
    )
    yield from _held(f"{words}{preload:.0f} mm", _each(sitting.design, asked.names, stacked), asked.wanted)


def _strapped(sitting: Sitting, asked: _Asked) -> Iterator[Instead]:
    """Straps cut so that they end the droop where a coil on its own seats comes loose."""
    corners, (shock, length, slope) = sitting.design.corners, asked.one
    if corners is None or not corners.straps or shock.sort != "coil" or asked.spring.rate <= 0.0:
        return
    here = shock.extended - asked.room
    free = here + asked.force / asked.spring.rate  # as long as it is when nothing presses it
    along = np.linspace(sitting.travelled.along[0], asked.wanted, 400)
    seated = along[sitting.travelled.at(length, slope, along)[0] <= free - _HAIR_MM]
    if not len(seated):
        return
    lowest = np.array([float(seated.min())])
    ends = {
        strut.id: float(sitting.travelled.at(long, by, lowest)[0][0]) for strut, long, by in sitting.travelled.struts
    }
    straps = tuple(one.rewritten(length=ends[one.id] / (1.0 + one.stretch)) for one in corners.straps)

    def seated_at(shock: Shock) -> Shock:
        assert shock.spring is not None
        return shock.rewritten(extended=free, spring=shock.spring.rewritten(preload=0.0))

    design = _each(sitting.design, asked.names, seated_at)
    assert design.corners is not None
    design = design.rewritten(corners=design.corners.rewritten(straps=straps))
    words = (
        f"springs {free:.0f} mm long free, and straps that end the droop {-lowest[0]:.0f} mm below ride, where they "
    )
    yield from _held(f"{words}come loose", design, asked.wanted)


def _each(design: Design, names: Sequence[str], change: Any) -> Design:
    return with_shocks(design, [change(one) if one.id in names else one for one in shocks_of(design)])


def _rate(rate: float) -> str:
    return f"{rate:.1f} N/mm ({rate / LB_IN:.0f} lb/in)"
