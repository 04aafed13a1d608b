"""Everything that is judged of a design, wherever it comes from: the axle's figures, those of the parts that run with
it, mounts out of their zones, and what is a fault by itself."""

from collections import deque
from collections.abc import Iterator
from dataclasses import replace
from functools import cached_property
from math import isfinite, isnan

from oak_lever.clearance.zones import IN_MM, Left, left_zones
from oak_lever.cycle import Cycle, cycle
from oak_lever.design.joint_catalog import UNSAID_WORDS
from oak_lever.design.parts import across, parts_of, words_of
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID
from oak_lever.judge.bolt_room import bolt_checks
from oak_lever.judge.carried import load_checks
from oak_lever.judge.check import FIX, GOOD, Check
from oak_lever.judge.faults import faults
from oak_lever.judge.gaps import Listed, gap_checks
from oak_lever.judge.judged import Judged, judge, judgment
from oak_lever.judge.parts import checks
from oak_lever.judge.places import Place
from oak_lever.judge.rules import rule_checks

_ALIKE = 1e-3
"""Values nearer than this to each other are alike, in any unit."""


class Verdicts:
    """A cycled design with all that is judged of it: `checks`, in the order faults, mounts out of their zones, parts in
    the order of the file, the axle's figures in the register's, rules that bind. What is only read is no check."""

    def __init__(self, cycled: Cycle, judged: Judged | None = None) -> None:
        self.design, self.cycled = cycled.design, cycled
        self.judged = judged or judge(cycled.swept)
        every = (*faults(cycled, self.judged), *_zones(self.design), *checks(cycled), *_figures(self.judged))
        self.checks: tuple[Check, ...] = (*every, *rule_checks(self.design, every))

    @cached_property
    def by_id(self) -> dict[str, Check]:
        """Each check by its id."""
        return {one.id: one for one in self.checks}

    @cached_property
    def listed(self) -> tuple[tuple[Check, Check | None], ...]:
        """The checks that have a verdict; a part and its mirror image that fare alike once, with the other beside."""
        pairs, found, done = across(self.design), list[tuple[Check, Check | None]](), set[str]()
        for check in self.checks:
            if check.figure.verdict is None or check.id in done:
                continue
            other = pairs.get(check.part)
            twin = next((o for o in self.checks if o.part == other and o.figure is check.figure), None)
            twin = twin if twin is not None and _fare_alike(twin, check) else None
            done.update(one.id for one in (check, twin) if one)
            found.append((check, twin))
        return tuple(found)

    @cached_property
    def gaps(self) -> Listed:
        """What comes nearer to each other than is wanted, or meets: it takes longer, and is asked for by itself."""
        return gap_checks(self.design) if self.cycled.located else ()

    @cached_property
    def loads(self) -> Listed:
        """What carries more than is wanted of it in a load case, and what is not known of that: asked for by itself."""
        return load_checks(self.design) if self.cycled.located else ()

    @cached_property
    def bolts(self) -> Listed:
        """Bolts that can't be got at: asked for by itself."""
        return bolt_checks(self.design) if self.cycled.located else ()

    @property
    def apart(self) -> Listed:
        """All that is asked for by itself."""
        return (*self.gaps, *self.loads, *self.bolts)

    @cached_property
    def grave(self) -> dict[str, int]:
        """How grave each is that is listed, by its id; what is good is left out."""
        return {check.id: check.grave for check, _ in self.listed if check.grave > GOOD}

    @cached_property
    def values(self) -> dict[str, float | None]:
        """The value of every check by its id, None where it has none or is beyond measure."""
        return {one.id: one.value for one in self.checks if one.figure.verdict is not None}


def verdicts_on(design: Design) -> Verdicts:
    """All that is judged of a design."""
    return _verdicts_on(design)


@remembered(8)
def _verdicts_on(design: Design) -> Verdicts:
    """Shocks and springs move nothing: of a design that differs in them alone, the axle's figures are known."""
    alike = next((one for one in reversed(_recent) if other_shocks(one.design, design) is not None), None)
    if alike is None:
        _recent.append(Verdicts(cycle(design)))
        return _recent[-1]
    swept = replace(alike.cycled.swept, design=design)
    return Verdicts(cycle(design, swept=swept), replace(alike.judged, swept=swept))


_recent: deque[Verdicts] = deque(maxlen=2)


def other_shocks(before: Design, design: Design) -> set[str] | None:
    """Which shocks are others, where a design differs in nothing else that moves, holds or stands in the way. None
    where more may have changed."""
    if before.corners is None or design.corners is None or before.links != design.links:
        return None
    same = before.corners.model_copy(update={"shocks": design.corners.shocks})
    if before.model_copy(update={"corners": same}) != design:
        return None
    was = {one.id: one for one in before.corners.shocks}
    return {one.id for one in design.corners.shocks if was.get(one.id) != one}


def on_parts(design: Design) -> list[Check]:
    """The findings on the parts that run with the axle."""
    every = (check for check, _ in verdicts_on(design).listed if check.grave > GOOD)
    return [check for check in every if check.figure.of not in ("design", "mount")]


def parts_grave(design: Design) -> dict[str, int]:
    """How grave each of these is, by its id."""
    return {check.id: check.grave for check in on_parts(design)}


def _fare_alike(one: Check, other: Check) -> bool:
    if one.value is None or other.value is None:
        return one.value == other.value
    return one.grave == other.grave and abs(one.value - other.value) < _ALIKE


# the axle's figures


def _figures(judged: Judged) -> Iterator[Check]:
    """Those that the first design has."""
    for row, name in enumerate(judged.figures):
        value = float(judged.value[row, 0])
        if not isnan(value):
            low, high = (_finite(ends[row, 0]) for ends in (judged.low, judged.high))
            yield Check(
                BY_ID[name], "", _finite(value), judged.measured[name].place(judged.swept), low, high,
                judged.sources[row], int(judged.severity[judged.ids.index(name), 0]), int(judged.side[row, 0]),
                guessed=_guessed(judged, name),
            )  # fmt: skip


def _finite(value: float) -> float | None:
    return float(value) if isfinite(value) else None


def _guessed(judged: Judged, figure: str) -> str:
    """That a joint is not said, where the verdict is held against what that joint could do."""
    if not judgment(BY_ID[figure]).by_joints:
        return ""
    parts = [part for name in judged.measured[figure].place(judged.swept).parts for part in (name, *_both_ends(name))]
    entries = judged.swept.joint_entries
    unsaid = [name for name in parts if name in entries and entries[name] is None]
    return f"No one has said what kind of joints these are: {UNSAID_WORDS}." if unsaid else ""


def _both_ends(name: str) -> tuple[str, str]:
    return f"{name}.axle", f"{name}.frame"


# mounts out of their zones


def _zones(design: Design) -> Iterator[Check]:
    """Mounts outside their zones; a mirror image that is as far outside its own is said with the first."""
    parts = parts_of(design)
    said: set[str] = set()
    every = list(left_zones(design))
    for left in every:
        spot, zone = left.spot, left.zone
        both = [one.spot.name for one in every if _mirrors(one, left)]
        if spot.name in said:
            continue
        said.update(both)
        body = next((body.words for body in parts.bodies if body.id == spot.part), words_of(spot.part))
        what = "in none of its holes" if zone.region.kind == "holes" else "not in its zone"
        title = f"{body[:1].upper()}{body[1:]}, {spot.words}{', and its mirror image' if both else ''}: {what}"
        yield Check(
            BY_ID["zone"], spot.name, left.by, Place(0.0, 0.0, (spot.name, *both)), None, 0.0,
            f"zone: {zone.name or words_of(zone.id)}", FIX, 1, title=title,
        )  # fmt: skip


def _mirrors(one: Left, other: Left) -> bool:
    (x, y, z), (a, b, c) = one.spot.at, other.spot.at
    near = max(abs(x - a), abs(y + b), abs(z - c), abs(one.by - other.by)) < IN_MM
    return near and one.spot.name != other.spot.name and one.spot.kind == other.spot.kind
