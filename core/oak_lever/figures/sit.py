"""Where the springs carry the truck, how fast it rides on them, and which springs would carry it at ride."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import pi, sqrt

import numpy as np

from oak_lever.design.running_gear import Shock, Spring, Stop
from oak_lever.design.types import Design
from oak_lever.figures.forces import pressed_by, pushed, slider_stops, sprung
from oak_lever.figures.register.kinds import COILS_LEFT_MM
from oak_lever.figures.struts import Travelled, sprung_weight
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.units import GRAVITY

TURN_MM = 1.8
"""What one turn of a threaded seat moves it: a common pitch; a house value."""
_SIDE = 0.5
LB_IN = 0.1751268
"""A pound an inch in N/mm."""
SEATS_MM = 150.0
"""How much longer an open shock is from eye to eye than between its spring's seats: eyes, collar and lower seat. A
guess for a common coilover: measure it."""
INSIDES_MM = (47.6, 57.2, 63.5, 76.2, 95.3, 127.0)
"""Generic inside diameters of coil springs."""
_SLEEVE_MM = 1.5

RATES_N_MM: tuple[float, ...] = tuple(round(pounds * LB_IN, 2) for pounds in range(100, 1001, 25))
"""Generic steps of coil rates: every 25 pounds an inch."""


@dataclass(frozen=True)
class Load:
    """A state of the truck: what it is called, its mass (kg) and the share of it on the front axle."""

    name: str
    mass: float
    front_share: float


@dataclass(frozen=True)
class Corner:
    """One side at the height the axle's springs take: its springs' force at the wheel (N), and the travel at which
    its own springs alone would carry half the weight (None: nowhere in the travel)."""

    side: str
    lift: float
    alone: float | None


@dataclass(frozen=True)
class Sits:
    """How a load sits: the sprung weight of the axle (N), the travel it takes (+: the axle is up in the truck, which
    is low), how far over its ride height it then stands once settled (mm, below 0: low), the rate (N/mm) and frequency
    (Hz) at that travel, and both sides; None where the springs carry it nowhere in the travel."""

    name: str
    weight: float
    travel: float | None
    stands: float | None
    rate: float | None
    frequency: float | None
    corners: tuple[Corner, ...]


@dataclass(frozen=True)
class Turned:
    """What one turn of the seats of one pair of springs does to the height the truck sits at, mm, + higher."""

    shocks: tuple[str, ...]
    by: float


@dataclass(frozen=True)
class Offered:
    """A spring that carries the truck at ride, over the second one where there is a stack: its rate, how far it, or the
    stack, is preloaded (mm; below 0 it hangs loose), how far it is pressed at ride and where it is shortest in the
    straight travel, the ride frequency, and what speaks against it. To order it: its free length and inside diameter
    by what the shock takes, and the least it must take before it is solid, mm."""

    rate: float
    preload: float
    at_ride: float
    shortest: float
    frequency: float
    against: tuple[str, ...]
    free_length: float
    inside: float
    to_solid: float


@dataclass(frozen=True)
class SliderStop:
    """Where the slider of a stack of two stops: the axle's travel, None where it does not within the travel."""

    shock: str
    travel: float | None


@dataclass(frozen=True)
class Inflated:
    """Where the truck sits with its air springs at a pressure (kPa), where that lies in the range: how far over its
    ride height it stands once settled, and the top of the tire under where it is at full bump, mm."""

    pressure: float
    stands: float | None
    under_bump: float | None


@dataclass(frozen=True)
class Filled:
    """The pressure (kPa) at which the truck stands so far over its ride height once settled; None where none does."""

    stands: float
    pressure: float | None


Along = tuple[Shock, Floats, Floats]
"""A shock, its length at the nodes of the straight travel and its slope there."""


class Sitting:
    """A design's springs through its straight travel."""

    def __init__(self, design: Design) -> None:
        self.design = design
        self.travelled = Travelled(design, mechanism_of(design))
        self.every: list[Along] = [
            (strut, length, slope) for strut, length, slope in self.travelled.struts if isinstance(strut, Shock)
        ]
        self.shocks = [one for one in self.every if one[0].spring or one[0].air]

    def sits(self, load: Load | None = None) -> Sits:
        """Under a load, or the truck's own weight."""
        weight = self.weight(load)
        name = load.name if load else ""
        travel = self.travelled.settles_at(weight)
        if travel is None:
            return Sits(name, weight, None, None, None, None, ())
        rate = self.rate_at(travel)
        speed = sqrt(rate * 1000.0 * GRAVITY / weight) / (2.0 * pi) if rate > 0.0 and weight > 0.0 else None
        return Sits(name, weight, travel, self.settled(travel), rate, speed, self._corners(travel, weight))

    def settled(self, travel: float) -> float:
        """How far over its ride height the truck stands that the springs carry at a travel, once it has settled."""
        settling = self.design.corners.settling if self.design.corners else None
        return -travel - (settling or 0.0)

    def weight(self, load: Load | None) -> float:
        if load is None:
            return sprung_weight(self.design)
        vehicle = self.design.vehicle.rewritten(mass=load.mass, front_share=load.front_share)
        return sprung_weight(self.design.rewritten(vehicle=vehicle))

    def _corners(self, travel: float, weight: float) -> tuple[Corner, ...]:
        found = []
        for side, hand in (("left", 1.0), ("right", -1.0)):

            def here(shock: Shock, hand: float = hand) -> bool:
                return shock.axle.at[1] * hand > 0.0

            lift = sum(float(self.lift(one, np.array([travel]))[0]) for one in self.shocks if here(one[0]))
            found.append(Corner(side, lift, self.travelled.settles_at(weight * _SIDE, here)))
        return tuple(found)

    def lift(self, one: Along, at: Floats) -> Floats:
        """What it lifts the axle's end of the truck by at these travels, N."""
        shock, length, slope = one
        here, moves = self.travelled.at(length, slope, at)
        out: Floats = pushed(shock, here).force * -moves
        return out

    def rate_at(self, travel: float) -> float:
        """N/mm at the axle there: every spring's rate times its ratio squared, and its force times the change of
        that; gas shut in at the height where it stands."""
        total = 0.0
        low, high = np.clip(travel + np.array([-1.0, 1.0]), self.travelled.along[0], self.travelled.along[-1])
        for shock, length, slope in self.shocks:
            here, moves = self.travelled.at(length, slope, np.array([travel, low, high]))
            push = sprung(shock, here[:1], float(here[0]))
            bend = -(moves[2] - moves[1]) / (high - low) if high > low else 0.0
            total += float(push.rate[0] * moves[0] ** 2 + push.force[0] * bend)
        return total

    def turns(self, turn_mm: float = TURN_MM) -> list[Turned]:
        """One turn tighter on each pair (or lone spring), by sitting it anew."""
        now = self.travelled.settles_at()
        found: list[Turned] = []
        for names in self._pairs():
            if now is None:
                break
            if not any(shock.spring for shock, _, _ in self.shocks if shock.id in names):
                continue
            then = Sitting(_changed(self.design, names, lambda preload: preload + turn_mm)).travelled.settles_at()
            if then is not None:
                found.append(Turned(names, now - then))
        return found

    def turns_for(self, names: Sequence[str], by: float, turn_mm: float = TURN_MM) -> float | None:
        """How many turns of the seats of these springs raise the truck by so much, mm, sat anew to 0.1 mm (below 0:
        looser, and lower); None where none of up to 100 turns does."""
        now = self.travelled.settles_at()

        def raised(turns: float) -> float | None:
            turned = with_turns(self.design, names, turns, turn_mm)
            then = Sitting(turned).travelled.settles_at()
            return None if now is None or then is None else now - then

        # looser than without preload there is nothing to turn
        loosest = -min((shock.spring.preload for shock, _, _ in self.shocks if shock.id in names and shock.spring),
                       default=0.0) / turn_mm  # fmt: skip
        turns, last = (1.0 if by > 0.0 else max(-1.0, loosest)), (0.0, 0.0)
        for _ in range(_ROUNDS):
            found = raised(turns) if turns >= loosest else None
            if found is None or abs(found - last[1]) < 1e-9:
                return None
            if abs(found - by) < _NEAR_MM:
                return turns
            last, turns = (turns, found), turns + (by - found) * (turns - last[0]) / (found - last[1])
            if not abs(turns) <= _MOST_TURNS:
                return None
        return None

    def _pairs(self) -> list[tuple[str, ...]]:
        """Springs whose lower eyes mirror each other together; the others alone."""
        left = [one[0] for one in self.shocks]
        pairs: list[tuple[str, ...]] = []
        while left:
            one = left.pop(0)
            x, y, z = one.axle.at
            twin = next(
                (o for o in left if max(abs(o.axle.at[0] - x), abs(o.axle.at[1] + y), abs(o.axle.at[2] - z)) < 1.0),
                None,
            )
            if twin:
                left.remove(twin)
            pairs.append((one.id, twin.id) if twin else (one.id,))
        return pairs

    def offered(self, names: Sequence[str], wanted: float = 0.0, rates: Sequence[float] = RATES_N_MM) -> list[Offered]:
        """Springs of each rate in place of these shocks', preloaded so that the truck sits at the travel `wanted`."""
        others = [one for one in self.shocks if one[0].id not in names]
        own = [one for one in self.every if one[0].id in names]
        at = np.array([wanted])
        carried = sum(float(self.lift(one, at)[0]) for one in others)
        ratios, lengths = [], []
        for _shock, length, slope in own:
            here, moves = self.travelled.at(length, slope, at)
            ratios.append(-float(moves[0]))
            lengths.append(float(here[0]))
        weight = sprung_weight(self.design)
        if not own or sum(ratios) <= 0.0 or weight <= carried:
            return []
        force = (weight - carried) / sum(ratios)
        return [self._offer(rate, force, own, lengths, wanted, weight) for rate in rates]

    def _offer(
        self, rate: float, force: float, own: Sequence[Along], lengths: Sequence[float],
        wanted: float, weight: float,
    ) -> Offered:  # fmt: skip
        shock, length, _ = own[0]
        spring = _rated(shock, rate, 0.0)
        pressed = pressed_by(spring, force)
        preload = pressed - (shock.extended - lengths[0])
        shortest = pressed + lengths[0] - float(length.min())
        names = [one[0].id for one in own]
        sprung_so = resprung(self.design, names, rate, max(preload, 0.0))
        speed = Sitting(sprung_so).rate_at(wanted)
        per_second = sqrt(max(speed, 0.0) * 1000.0 * GRAVITY / weight) / (2.0 * pi)
        against = []
        if preload < 0.0:
            against.append("loose")
        if shock.spring and shortest > shock.spring.solid:
            against.append("coils")
        free = shock.extended - SEATS_MM + max(preload, 0.0)
        inside = next((one for one in INSIDES_MM if one >= shock.diameter + _SLEEVE_MM), shock.diameter + _SLEEVE_MM)
        return Offered(
            rate, preload, pressed, shortest, per_second, tuple(against), free, inside, shortest + COILS_LEFT_MM
        )

    def sliders(self) -> list[SliderStop]:
        """Where each stack's slider stops."""
        found = []
        for shock, length, slope in self.shocks:
            if shock.spring is None or shock.spring.second is None:
                continue
            at = shock.spring.preload + shock.extended - slider_stops(shock.spring)
            along = self.travelled.along
            looked = np.linspace(along[0], along[-1], 400)
            here, _ = self.travelled.at(length, slope, looked)
            across = np.flatnonzero((here[:-1] - at) * (here[1:] - at) <= 0.0)
            where = None
            if len(across):
                n = int(across[0])
                span = here[n + 1] - here[n]
                where = float(looked[n] + (0.0 if span == 0.0 else (at - here[n]) / span) * (looked[1] - looked[0]))
            found.append(SliderStop(shock.id, where))
        return found

    def filled_at(self, heights: Sequence[float]) -> list[Filled]:
        """The pressure in every air spring that has the truck stand so far over its ride height once settled, by
        halving; None where none of 1 to 2000 kPa does."""
        found = []
        for height in heights:
            travel = self.travel_at(height)
            at = [(pressure, self._carries(pressure, travel)) for pressure in (1.0, 2000.0)]
            if not at[0][1] <= 0.0 <= at[1][1]:
                found.append(Filled(height, None))
                continue
            low, high = at[0][0], at[1][0]
            for _ in range(40):
                middle = (low + high) / 2.0
                low, high = (middle, high) if self._carries(middle, travel) < 0.0 else (low, middle)
            found.append(Filled(height, (low + high) / 2.0))
        return found

    def travel_at(self, height: float) -> float:
        """The travel at which the springs must carry it to stand so far over ride height once settled."""
        settling = self.design.corners.settling if self.design.corners else None
        return -height - (settling or 0.0)

    def _carries(self, pressure: float, travel: float) -> float:
        """How much more than the sprung weight the springs carry at a pressure and travel, N."""
        if not self.travelled.along[0] <= travel <= self.travelled.along[-1]:
            return np.nan
        sitting = Sitting(_filled(self.design, pressure))
        return sum(float(sitting.lift(one, np.array([travel]))[0]) for one in sitting.shocks) - self.weight(None)

    def inflated(self, pressures: Sequence[float]) -> list[Inflated]:
        """At these pressures in every air spring; 0 is aired out: then it comes down on its bump stops."""
        found = []
        for pressure in pressures:
            travelled = Sitting(_filled(self.design, pressure)).travelled
            travel = travelled.settles_at()
            stands = None if travel is None else self.settled(travel)
            if travel is None and pressure == 0.0:
                stands = self.rests()
            found.append(Inflated(pressure, stands, None if stands is None else self.design.travel.bump + stands))
        return found

    def rests(self) -> float | None:
        """How far over its ride height the truck comes to rest with nothing in its springs: on a stop that is solid,
        or at what ends the way up; nothing of that settles."""
        limit = self.travelled.limits()["bump"]
        return -float(limit["travel"]) if limit else None


def shocks_of(design: Design) -> list[Shock]:
    """The design's shocks and springs, in the file's order."""
    return list(design.corners.shocks) if design.corners else []


def with_shocks(design: Design, shocks: Sequence[Shock]) -> Design:
    """The design with these shocks in place of its own."""
    assert design.corners is not None
    return design.rewritten(corners=design.corners.rewritten(shocks=tuple(shocks)))


_ROUNDS, _NEAR_MM, _MOST_TURNS = 12, 0.1, 100.0


def with_turns(design: Design, names: Sequence[str], turns: float, turn_mm: float = TURN_MM) -> Design:
    """The design with the seats of these springs so many turns tighter, below 0 looser."""
    return _changed(design, names, lambda preload: preload + turns * turn_mm)


def _changed(design: Design, names: Sequence[str], preload: Callable[[float], float]) -> Design:
    return with_shocks(design, [
        one.rewritten(spring=one.spring.rewritten(preload=preload(one.spring.preload)))
        if one.id in names and one.spring else one for one in shocks_of(design)
    ])  # fmt: skip


def _rated(shock: Shock, rate: float, preload: float, stacked: bool = True) -> Spring:
    """A shock's spring of another rate and preload; over its second one where it is `stacked`."""
    spring = shock.spring
    second = spring.second if spring and stacked else None
    return Spring(rate=rate, preload=preload, solid=spring.solid if spring else shock.extended, second=second)


def resprung(design: Design, names: Sequence[str], rate: float, preload: float, stacked: bool = True) -> Design:
    """The design with these shocks' springs of another rate and preload; `stacked`: over the second ones they have."""
    return with_shocks(design, [
        one.rewritten(spring=_rated(one, rate, preload, stacked)) if one.id in names else one
        for one in shocks_of(design)
    ])  # fmt: skip


def _filled(design: Design, pressure: float) -> Design:
    return with_shocks(design, [
        one.rewritten(air=one.air.rewritten(pressure=pressure)) if one.air else one for one in shocks_of(design)
    ])  # fmt: skip


@dataclass(frozen=True)
class Spaced:
    """A stop with a spacer more or less (mm): the travel at which it touches and is solid, None beyond the travel."""

    spacer: float
    touches: float | None
    solid: float | None


def spaced(design: Design, name: str, steps: Sequence[float]) -> list[Spaced]:
    """What each spacer does to the bump travel, straight up.

    Raises:
        KeyError: for a name that no stop has.
    """
    assert design.corners is not None
    stop = next((one for one in design.corners.stops if one.id == name), None)
    if stop is None:
        raise KeyError(name)
    found = []
    for step in steps:
        grown = _grown(stop, step)
        if grown is None:
            continue
        one = design.rewritten(corners=design.corners.rewritten(shocks=(), straps=(), stops=(grown,)))
        travelled = Travelled(one, mechanism_of(one))
        at = {event: where for _, event, where in travelled.events(1.0)}
        found.append(Spaced(step, at.get("touches"), at.get("solid")))
    return found


def _grown(stop: Stop, step: float) -> Stop | None:
    if stop.free + step <= 0.0 or stop.solid + step < 0.0:
        return None
    return stop.rewritten(free=stop.free + step, solid=stop.solid + step)
