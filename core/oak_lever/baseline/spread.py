"""A figure with its first-order dependence on the readings: what it is, and how far each reading's sigma moves it."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, field

from oak_lever.truck.types import AnyReading
from oak_lever.units import KG_PER_LB, MM_PER_INCH

_UNIT = {"mm": 1.0, "in": MM_PER_INCH, "deg": 1.0, "kg": 1.0, "lb": KG_PER_LB}
SIGMA: dict[str, float] = {"tape": 1.5, "laser": 1.0, "plumb": 2.0, "gauge": 0.1, "scale": 2.0}
"""One standard deviation of a reading that says none: mm, degrees, kg."""


@dataclass(frozen=True)
class Spread:
    """`value`, and by the name of what it rests on, how much one sigma of that moves it (signed)."""

    value: float
    by: dict[str, float] = field(default_factory=dict)

    @property
    def sigma(self) -> float:
        return math.sqrt(math.fsum(v * v for v in self.by.values()))

    def __add__(self, other: "Spread | float") -> "Spread":
        return combined([(1.0, self), (1.0, other)])

    def __sub__(self, other: "Spread | float") -> "Spread":
        return combined([(1.0, self), (-1.0, other)])

    def __mul__(self, other: "Spread | float") -> "Spread":
        if not isinstance(other, Spread):
            return combined([(other, self)])
        return self.through(self.value * other.value, [(other.value, self), (self.value, other)])

    def __truediv__(self, other: "Spread | float") -> "Spread":
        if not isinstance(other, Spread):
            return combined([(1.0 / other, self)])
        value = self.value / other.value
        return self.through(value, [(1.0 / other.value, self), (-value / other.value, other)])

    @staticmethod
    def through(value: float, slopes: "Sequence[tuple[float, Spread | float]]") -> "Spread":
        """A value with its slopes by other figures."""
        return Spread(value, combined(slopes).by)


def combined(terms: Sequence[tuple[float, Spread | float]]) -> Spread:
    """The sum of figures, each times its factor."""
    value, by = 0.0, dict[str, float]()
    for factor, term in terms:
        if not isinstance(term, Spread):
            value += factor * term
            continue
        value += factor * term.value
        for name, moved in term.by.items():
            by[name] = by.get(name, 0.0) + factor * moved
    return Spread(value, by)


def mean(of: Sequence[Spread]) -> Spread:
    return combined([(1.0 / len(of), one) for one in of])


def arctan_deg(slope: Spread) -> Spread:
    """The angle of a slope, degrees."""
    return Spread.through(math.degrees(math.atan(slope.value)), [(math.degrees(1.0 / (1.0 + slope.value**2)), slope)])


def value_of(reading: AnyReading) -> float:
    """What was read, mm, degrees or kg."""
    return reading.value * _UNIT[reading.unit]


def sigma_of(reading: AnyReading) -> float:
    """One standard deviation of it, mm, degrees or kg: its own, or its instrument's."""
    return SIGMA[reading.instrument] if reading.sigma is None else reading.sigma * _UNIT[reading.unit]


def spread_of(reading: AnyReading) -> Spread:
    return Spread(value_of(reading), {reading.id: sigma_of(reading)})
