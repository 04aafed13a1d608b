"""The cycle of one design or many: ride, straight travel, articulation, and the map of both together."""

import math
from collections.abc import Callable
from dataclasses import asdict, dataclass
from functools import cache, cached_property, lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from oak_lever.design.types import Design
from oak_lever.figures.allowed import Edges, allowed_where, edges_of, left_by_each
from oak_lever.figures.corner_columns import Columns, corner_columns
from oak_lever.figures.fans import Fan
from oak_lever.figures.joints import joint_names, misalignment, turned_in
from oak_lever.figures.links import link_figures, separation
from oak_lever.figures.rows import COLUMNS, ROW_OF, setting_of, table
from oak_lever.figures.running_gear import RunningGear, running_gear
from oak_lever.figures.statics import side_load
from oak_lever.figures.struts import Travelled
from oak_lever.motion.freedom import Strained, strained
from oak_lever.motion.mechanism import Floats, Ints, Mechanism, mechanism_of
from oak_lever.motion.trace import RIDE, Plan, Poses, Traced, trace

STEPS = 41
MOST_STEPS = 2001
MAP_TRAVELS = 11
"""Rows of the map: a fraction of 41 and of 11, so that they are rows of the straight sweep too."""
MAP_TWISTS = (-1.0, -0.75, -0.5, -0.25, 0.0, 0.25, 0.5, 0.75, 1.0)
"""Columns of the map, parts of the full articulation. What is worst in a map of this step is worst to a hundredth: what
is judged there bends by less than that from one cell to the next, and mostly is worst on the rim."""


@dataclass(frozen=True)
class Places:
    """Where in the poses each sweep's rows stand; `map` (T, A): some of the straight rows, each twisted both ways, the
    four corners of full travel and full articulation included; its middle column is straight."""

    ride: Ints
    heave: Ints
    articulation: Ints
    map: Ints

    @cached_property
    def every(self) -> Ints:
        """Each pose of both sweeps and of the map, once."""
        return np.unique(np.concatenate([self.heave, self.articulation, self.map.ravel()]))


@dataclass(frozen=True)
class Swept:
    """D designs of one layout through the same poses: `table` (C, D, P) of `KEPT`, `turned` (J, D, P) misalignment of
    `joint_names`, degrees. `design` gives what they share; the mounts are the mechanism's."""

    design: Design
    mechanism: Mechanism
    places: Places
    traced: Traced
    table: Floats
    joint_names: tuple[str, ...]
    turned: Floats

    @cached_property
    def strained(self) -> Strained | None:
        """What each constraint is off by in every pose; None for a layout that can make the motion freely."""
        return _strained(self.mechanism, self.traced) if self.mechanism.layout.gives else None

    @cached_property
    def allowed(self) -> NDArray[np.bool_]:
        """(D, P) the poses that are reached and that bump stops and straps let it come to: what a figure that is judged
        anywhere in travel and articulation is judged over."""
        return allowed_where(self.left, self.traced.reached)

    @cached_property
    def left(self) -> Floats:
        """(S, D, P) what each stop and strap has left, mm; see `figures.held`."""
        return left_by_each(self.design, self.mechanism, self.traced.state)

    @cached_property
    def edges(self) -> Edges:
        """Where between the map's poses stops and straps end what is allowed."""
        return edges_of(self.left, self.traced.reached, self.places.map)

    @property
    def fan_cells(self) -> tuple[Ints, Ints]:
        """(R, W) each: the poses twisted at ride, and those of the map."""
        return self.places.articulation[None], self.places.map

    @cached_property
    def fans(self) -> tuple[Fan, ...]:
        """What stops and straps leave of each of these."""
        travel, twist = self.traced.poses.travel_mm, self.traced.poses.articulation_deg
        return tuple(Fan(self.left[:, :, at], travel[at], twist[at]) for at in self.fan_cells)

    @cached_property
    def side_load(self) -> tuple[tuple[str, ...], Floats]:
        """The bars' names and the force (B, D) in each at ride from a side load of 1."""
        return _side_load(self.mechanism)

    @cached_property
    def joint_entries(self) -> dict[str, str | None]:
        """The entry of the joint catalog that the design says for each joint, None where it says none."""
        return self.mechanism.joint_entries

    def column(self, name: str, at: Ints) -> Floats:
        """(D, len(at)) of one column of `KEPT`."""
        values: Floats = self.table[ROW_OF[name]][:, at]
        return values


@dataclass(frozen=True)
class Sweep:
    """N rows of one sweep: `table` (C, N) of `KEPT`, `turned` (J, N) misalignment of `joint_names`, `reached` (N,).

    NaN stands for none. `state` (N, 7) is the axle's pose (mm, radians) for whoever draws it. `runs` works out what
    runs with the axle, where the design has such parts.
    """

    table: Floats
    joint_names: tuple[str, ...]
    turned: Floats
    reached: NDArray[np.bool_]
    state: Floats
    runs: Callable[[], RunningGear] | None = None

    @cached_property
    def running_gear(self) -> RunningGear:
        """Shaft, steering, shocks, stops and straps in these rows."""
        return self.runs() if self.runs else RunningGear({}, {})

    @cached_property
    def columns(self) -> dict[str, Floats]:
        """Each figure's (N,) by name."""
        return dict(zip(COLUMNS, self.table, strict=False))

    @cached_property
    def joints(self) -> dict[str, Floats]:
        """Each joint's misalignment (N,), degrees, by name."""
        return dict(zip(self.joint_names, self.turned, strict=True))

    def rows(self) -> list[dict[str, Any]]:
        """One object a row, in the words of the file format; None for what does not exist."""
        plain = {name: _plain(values) for name, values in self.columns.items()}
        joints = {name: _plain(values) for name, values in self.joints.items()}
        return [self._row(n, plain, joints) for n in range(len(self.reached))]

    def _row(self, n: int, plain: dict[str, list[Any]], joints: dict[str, list[Any]]) -> dict[str, Any]:
        reached = bool(self.reached[n])
        return {
            "travel": plain["travel"][n],
            "articulation": plain["articulation"][n],
            "reached": reached,
            **{name: values[n] for name, values in plain.items() if name not in ("travel", "articulation")},
            "misalignment": {name: values[n] for name, values in joints.items()} if reached else None,
            **self.running_gear.row(n, reached),
        }


def _plain(values: Floats) -> list[Any]:
    return [None if math.isnan(v) else v + 0.0 for v in values.tolist()]


@dataclass(frozen=True)
class Cycle:
    """The whole cycle of one design. `stops`: where a sweep ended before its range (mm, degrees), below and above."""

    design: Design
    swept: Swept
    ride: Sweep
    heave: Sweep
    articulation: Sweep
    stops: dict[str, list[float | None]]
    running_gear: Callable[[], RunningGear]
    here: Sweep | None = None

    @cached_property
    def columns(self) -> Columns:
        """Every column of what runs with the axle, over all poses that were solved, by name; see `figures.ridden`."""
        whole = self.running_gear()
        single = dict(whole.columns)
        return single | corner_columns(self.design, self.swept.mechanism, self.swept.traced, self.swept.places.heave)

    @property
    def located(self) -> bool:
        """Whether the links hold the axle at ride at all."""
        return bool(self.ride.reached[0])

    def data(self) -> dict[str, Any]:
        """The cycle as plain JSON values."""
        return {
            "format": "oak-lever-cycle",
            "version": 1,
            "design": self.design.name,
            "links": [asdict(link) for link in link_figures(self.swept.mechanism)],
            "separation": asdict(separation(self.swept.mechanism)),
            "stops": self.stops,
            "ride": self.ride.rows()[0],
            "heave": self.heave.rows(),
            "articulation": self.articulation.rows(),
            **self._ends(),
        }

    def _ends(self) -> dict[str, Any]:
        """What ends the straight travel, and where the springs carry the truck: of a design with corners."""
        if self.design.corners is None:
            return {}
        travelled = Travelled(self.design, self.swept.mechanism)
        return {"limits": travelled.limits(), "settles_at": travelled.settles_at()}


@dataclass(frozen=True)
class Look:
    """One pose of one design; what does not exist there is NaN."""

    design: Design
    mechanism: Mechanism
    here: Sweep
    columns: Columns
    """Of what runs with the axle, over the poses that were solved, the one looked at last."""


def _runs(design: Design) -> bool:
    return bool(design.driveshaft or design.steering or design.corners)


def cycle(
    design: Design, steps: int = STEPS, here: tuple[float, float] | None = None, swept: "Swept | None" = None
) -> Cycle:  # fmt: skip
    """Cycle a design: `steps` rows of travel from full droop to full bump, and as many of articulation at ride.

    `here` asks for one more pose, (travel mm, articulation degrees), reached straight up and then twisted. `swept`:
    the sweep of this design, where it is known already.

    Raises:
        ValueError: for fewer than 2 or more than 2001 steps.
    """
    swept = swept or sweep_many(design, mechanism_of(design), steps, here)
    traced, places = swept.traced, swept.places
    whole = cache(lambda: running_gear(design, swept.mechanism, traced))

    def sweep(at: Ints) -> Sweep:
        runs = (lambda: whole().at(at)) if _runs(design) else None
        table, turned = swept.table[:, 0, at], swept.turned[:, 0, at]
        return Sweep(table, swept.joint_names, turned, traced.reached[0, at], traced.state[0, at], runs)

    stops = {
        "heave": _stops(traced, places.heave, traced.poses.travel_mm),
        "articulation": _stops(traced, places.articulation, traced.poses.articulation_deg),
    }
    return Cycle(
        design, swept, sweep(places.ride), sweep(places.heave), sweep(places.articulation), stops, whole,
        sweep(np.array([-1])) if here else None,
    )  # fmt: skip


def look(design: Design, travel_mm: float, articulation_deg: float) -> Look:
    """Where the axle stands in one pose, and every figure there: what a hand on the drawing looks at first."""
    mechanism = mechanism_of(design)
    traced = trace(mechanism, RIDE.and_one(travel_mm, articulation_deg))
    figures, turned = table(traced, setting_of(design)), misalignment(mechanism, traced.state)
    here = Sweep(
        figures[:, 0, -1:], joint_names(mechanism), turned[:, 0, -1:], traced.reached[0, -1:], traced.state[0, -1:],
        (lambda: running_gear(design, mechanism, traced).at(np.array([-1]))) if _runs(design) else None,
    )  # fmt: skip
    columns = dict(running_gear(design, mechanism, traced).columns) if _runs(design) else {}
    columns |= corner_columns(design, mechanism, traced, np.array([0]))
    return Look(design, mechanism, here, columns)


def sweep_many(
    design: Design, mechanism: Mechanism, steps: int = STEPS, here: tuple[float, float] | None = None
) -> Swept:
    """All designs of the mechanism through the design's own travel and articulation; `here` as in `cycle`.

    Raises:
        ValueError: for fewer than 2 or more than 2001 steps.
    """
    if not 2 <= steps <= MOST_STEPS:
        raise ValueError(f"steps must be from 2 to {MOST_STEPS}, not {steps}")
    reach = design.travel
    places, poses = _sweeps(reach.droop, reach.bump, reach.articulation, steps)
    traced = trace(mechanism, poses.and_one(*here) if here else poses)
    figures = table(traced, setting_of(design))
    return Swept(design, mechanism, places, traced, figures, joint_names(mechanism), turned_in(mechanism, traced))


@lru_cache(maxsize=16)
def _strained(mechanism: Mechanism, traced: Traced) -> Strained:
    return strained(mechanism, traced.state)


_side_load = lru_cache(maxsize=16)(side_load)


@lru_cache(maxsize=256)
def _sweeps(droop_mm: float, bump_mm: float, articulation_deg: float, steps: int) -> tuple[Places, Poses]:
    """The places of ride, of the straight rows, of the twisted ones and of the map, and the poses to solve."""
    plan = Plan()
    up = plan.heave(np.linspace(-droop_mm, bump_mm, steps))
    twist = plan.twist(np.linspace(-articulation_deg, articulation_deg, steps))
    rows = up[np.linspace(0, steps - 1, min(steps, MAP_TRAVELS)).round().astype(np.int64)]
    sides = np.array([part for part in MAP_TWISTS if part != 0.0]) * articulation_deg
    half = len(sides) // 2
    fans = [plan.twist(sides, at=int(row)) for row in rows]
    both = np.array([[*fan[:half], row, *fan[half:]] for fan, row in zip(fans, rows, strict=True)])
    return Places(np.array([0]), up, twist, both), plan.poses()


def _stops(traced: Traced, places: Ints, along: Floats) -> list[float | None]:
    """Below and above ride: where the sweep ended (None where it did not); [0, 0] for a layout that is loose."""
    if not traced.reached[0, 0]:
        return [0.0, 0.0]
    if traced.reached[0, places].all():
        return [None, None]
    ends: list[float | None] = [None, None]
    for place in places:
        if not traced.reached[0, place] and not math.isnan(traced.ended[0, place]):
            start = along[traced.poses.parent[place]]
            at = float(start + traced.ended[0, place] * (along[place] - start))
            ends[int(along[place] >= 0)] = at
    return ends
