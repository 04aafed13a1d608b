"""How hard springs push: coils, stacks of two, gas, bump stops; by their length. N, mm, N/mm."""

from dataclasses import dataclass

import numpy as np

from oak_lever.design.running_gear import Air, Shock, Spring, Stop
from oak_lever.motion.mechanism import Floats

ATMOSPHERE_KPA = 101.325
POLYTROPIC = 1.38
"""Of gas that is pressed faster than its heat goes: between 1 (slowly) and 1.4 (no heat goes at all)."""


@dataclass(frozen=True)
class Push:
    """`force` (...) N, never below 0, and `rate` (...) N/mm by which it grows as it is pressed."""

    force: Floats
    rate: Floats


def pushed(shock: Shock, length: Floats) -> Push:
    """What a shock's spring and gas push with at lengths (...), the gas held at its pressure at every length: what the
    truck stands on."""
    return _beside(shock, length, gas(shock.air, length) if shock.air else None)


def sprung(shock: Shock, length: Floats, filled_at: float) -> Push:
    """The same over bumps: the gas, set to its pressure at the length `filled_at`, is shut in (p V^n stays)."""
    return _beside(shock, length, shut_in(shock.air, shock.compressed, length, filled_at) if shock.air else None)


def _beside(shock: Shock, length: Floats, air: Push | None) -> Push:
    """The shock's spring and what its gas pushes with, side by side; nothing where it has neither."""
    spring = coil(shock.spring, shock.extended, length) if shock.spring else None
    if spring and air:
        return Push(spring.force + air.force, spring.rate + air.rate)
    return spring or air or Push(np.zeros_like(length), np.zeros_like(length))


def coil(spring: Spring, extended: float, length: Floats) -> Push:
    """Rate times how far it is pressed. Two in line share the force, and are pressed as their rates' inverses, until
    the second's slider stops."""
    pressed = np.maximum(spring.preload + extended - length, 0.0)
    first = np.full_like(pressed, spring.rate)
    loose = pressed <= 0.0
    if spring.second is None or spring.rate == 0.0:
        return Push(spring.rate * pressed, np.where(loose, 0.0, first))
    both = spring.rate * spring.second.rate / (spring.rate + spring.second.rate)
    until = slider_stops(spring)
    force = both * np.minimum(pressed, until) + spring.rate * np.maximum(pressed - until, 0.0)
    return Push(force, np.where(loose, 0.0, np.where(pressed < until, both, first)))


def slider_stops(spring: Spring) -> float:
    """How far a stack of two is pressed when its slider stops, mm; infinite for one spring."""
    if spring.second is None or spring.rate == 0.0:
        return np.inf
    return spring.second.slide * (spring.rate + spring.second.rate) / spring.rate


def pressed_by(spring: Spring, force: float) -> float:
    """How far a spring, or a stack of two, is pressed (mm) by a force (N): `coil` the other way round."""
    if spring.second is None:
        return force / spring.rate
    both = spring.rate * spring.second.rate / (spring.rate + spring.second.rate)
    until = slider_stops(spring)
    return force / both if force <= both * until else until + (force - both * until) / spring.rate


def gas(air: Air, length: Floats) -> Push:
    """Pressure times effective area, the pressure held."""
    area, slope = area_at(air, length)
    force = air.pressure / 1000.0 * area
    return Push(force, -air.pressure / 1000.0 * slope)


def shut_in(air: Air, shortest: float, length: Floats, filled_at: float) -> Push:
    """Gas of a given pressure at `filled_at`, shut in: F = (p - air) A, dp/dL = -n p A / V."""
    area, slope = area_at(air, length)
    here, there = volume_at(air, shortest, length), volume_at(air, shortest, np.array(filled_at))
    absolute = (air.pressure + ATMOSPHERE_KPA) / 1000.0 * (there / here) ** POLYTROPIC
    over = absolute - ATMOSPHERE_KPA / 1000.0
    rate = POLYTROPIC * absolute * area**2 / here - over * slope
    return Push(np.maximum(over * area, 0.0), np.where(over > 0.0, rate, 0.0))


def area_at(air: Air, length: Floats) -> tuple[Floats, Floats]:
    """Effective area (mm^2) at lengths, and its slope by length (mm)."""
    at, area = (np.array(values) for values in zip(*air.area, strict=True))
    found = np.interp(length, at, area)
    if len(at) == 1:
        return found, np.zeros_like(found)
    part = np.clip(np.searchsorted(at, length, side="right") - 1, 0, len(at) - 2)
    slope = (area[part + 1] - area[part]) / (at[part + 1] - at[part])
    return found, np.where((length < at[0]) | (length > at[-1]), 0.0, slope)


def volume_at(air: Air, shortest: float, length: Floats) -> Floats:
    """Volume (mm^3): what is left at the shortest, and the area over the length from there on."""
    at = np.array([one for one, _ in air.area])

    def swept(to: Floats) -> Floats:
        """The area's integral from its first length: exact, piece by piece."""
        total = area_at(air, at[:1])[0] * np.minimum(to - at[0], 0.0)
        for low, high in zip(at, [*at[1:], np.inf], strict=True):
            end = np.clip(to, low, high)
            total = total + (area_at(air, np.full_like(end, low))[0] + area_at(air, end)[0]) / 2.0 * (end - low)
        return np.asarray(total)

    given = np.asarray(length, dtype=float)
    out: Floats = np.maximum(air.volume + swept(given) - swept(np.array(shortest)), 1e-3 * air.volume)
    return out


def stopped(stop: Stop, length: Floats) -> Floats:
    """What a bump stop pushes with (...) N, by its own points; 0 where none are given. Past the last as steep as
    before."""
    if not stop.force:
        return np.zeros_like(length)
    stroke, force = (np.array(values) for values in zip((0.0, 0.0), *stop.force, strict=True))
    pressed = stop.free - length
    if stroke[1] == 0.0:
        stroke, force = stroke[1:], force[1:]
    found = np.interp(pressed, stroke, force)
    if len(stroke) > 1:
        steep = (force[-1] - force[-2]) / (stroke[-1] - stroke[-2])
        found = np.where(pressed > stroke[-1], force[-1] + steep * (pressed - stroke[-1]), found)
    out: Floats = np.where(pressed > 0.0, found, 0.0)
    return out
