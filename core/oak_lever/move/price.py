"""What a changed design does to all that is judged, against the design that it was made from."""

from collections.abc import Iterator, Mapping

from oak_lever.design.parts import across, parts_of
from oak_lever.design.reader import design_data
from oak_lever.design.values import Point
from oak_lever.figures.register import Unit
from oak_lever.judge.check import GOOD, STOP, Check
from oak_lever.judge.judged import compared
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.move.coordinates import Movable
from oak_lever.move.offers import Cure, Worsened
from oak_lever.move.remedies import Remedy
from oak_lever.move.words import sentence, shifts_said
from oak_lever.units import Units

SEEN: dict[Unit, float] = {
    "mm": 1.0, "deg": 0.1, "percent": 1.0, "ratio": 0.01, "hz": 0.05, "n": 1.0, "n_mm": 0.1,
}  # fmt: skip
"""The least change of a figure that a shop can see."""


def priced(before: Verdicts, other: Remedy, finding: str | None = None, nearer: bool = True) -> Iterator[Cure]:
    """The changed design with its price, judged anew; nothing where it makes a new stop, or does not help the finding
    that it is for: that is to be less grave, or (`nearer`) nearer to its band by what can be seen. It `meets` where the
    finding is one no longer."""
    after = verdicts_on(other.design)
    if new_stops(before.grave, after.grave):
        return
    meets = finding is None or finding not in after.grave
    if not meets and finding is not None and not _helps(before, after, finding, nearer):
        return
    better, worse = compared(before.grave, after.grave)
    yield Cure(
        sentence(other.words), other.price, meets, other.shifts, moved(other), design_data(other.design), after.values,
        better, worse, worsened(before, after, finding),
    )  # fmt: skip


def move_priced(before: Verdicts, space: Movable, move: Floats, check: Check | None, units: Units) -> Iterator[Cure]:
    """One move (F,) as a cure of a finding, or (None) with its price alone; none where it makes a new stop, or no
    design."""
    then, shifts = space.moved(move), space.shifts(move)
    if then is not None and shifts:
        move_of = Remedy(shifts_said(space.design, shifts, units), "", then, shifts)
        yield from priced(before, move_of, check.id if check else None)


def new_stops(was: Mapping[str, int], now: Mapping[str, int]) -> list[str]:
    """Findings that are a stop and were none."""
    return [name for name, grave in now.items() if grave == STOP and was.get(name, GOOD) < STOP]


def _helps(before: Verdicts, after: Verdicts, finding: str, nearer: bool) -> bool:
    was, then = before.grave[finding], after.grave[finding]
    return then < was or (nearer and then == was and _by(before.by_id[finding], after.by_id[finding]) < 0.0)


def _by(was: Check, now: Check) -> float:
    """By how much it is worse, + , or better, in the figure's unit; 0 where no shop could see it."""
    if was.value is None or now.value is None:
        return 0.0
    by = now.bad - was.bad
    return by if abs(by) > SEEN[now.figure.unit] else 0.0


def worsened(before: Verdicts, after: Verdicts, finding: str | None) -> tuple[Worsened, ...]:
    """Every figure but the finding's own that is worse than it was by what can be seen; of a part and its mirror image
    that are as much worse, the one."""
    pairs, found = across(after.design), list[Worsened]()
    worse = {one.id: by for one in after.checks if one.figure.verdict is not None and one.id != finding
             and one.id in before.by_id and (by := _by(before.by_id[one.id], one)) > 0.0}  # fmt: skip
    told = set[tuple[str, str]]()
    for name in worse:
        was, now = before.by_id[name], after.by_id[name]
        assert was.value is not None
        assert now.value is not None
        if (now.figure.id, pairs.get(now.part, "")) not in told:
            told.add((now.figure.id, now.part))
            found.append(Worsened(name, now.figure.id, was.value, now.value))
    return tuple(found)


def moved(other: Remedy) -> dict[str, Point]:
    """Where the mounts that are shifted then are, by name."""
    parts = parts_of(other.design)
    return {name: parts.spot(name).at for shift in other.shifts for name in shift.mounts}
