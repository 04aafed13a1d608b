"""How far off a figure of the truck may be before a verdict changes: what matters most of a figure that was guessed."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.cycle import cycle, sweep_many
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.judge.findings import ZONE
from oak_lever.judge.judged import GOOD, judge
from oak_lever.judge.running import RUN, Check, checks
from oak_lever.motion.mechanism import Floats, mechanism_of


@dataclass(frozen=True)
class Input:
    """A figure that verdicts rest on, by its path in the design; tried from `low` to `high` times what it is, and
    never above `most`."""

    path: str
    words: str
    unit: str
    low: float
    high: float
    most: float = np.inf


INPUTS: tuple[Input, ...] = (
    Input("vehicle.cg_height", "height of the center of gravity", "mm", 0.6, 1.5),
    Input("vehicle.mass", "mass of the whole truck", "kg", 0.6, 1.6),
    Input("vehicle.front_share", "share of the mass on the front axle", "share", 0.6, 1.5, 1.0),
    Input("vehicle.brake_share", "share of the braking at this axle", "share", 0.5, 1.6, 1.0),
    Input("vehicle.drive_share", "share of the drive at this axle", "share", 0.0, 2.0, 1.0),
    Input("vehicle.wheelbase", "wheelbase", "mm", 0.9, 1.1),
    Input("axle.tire_radius_loaded", "loaded tire radius", "mm", 0.92, 1.06),
)
"""What a shop guesses before it has weighed and measured, and as far as anyone guesses wrong. A loaded radius stands a
few hundredths under half the tire's diameter; a center of gravity has been guessed a foot off."""


@dataclass(frozen=True)
class Slack:
    """While the input, now `value`, stays between `low` and `high`, the verdict on the finding stays what it is; None:
    as far as was tried, which is `tried`."""

    path: str
    words: str
    unit: str
    value: float
    low: float | None
    high: float | None
    tried: tuple[float, float]


_CARRIED = ("vehicle.mass", "vehicle.front_share")
"""What a verdict on springs hangs on; on all else that runs with the axle the weights have no say."""
_ROWS = 11
_SAMPLES = 4
_HALVINGS = 8
_ANSWERS = 1e-9


def slack(design: Design, finding: str, inputs: Sequence[str] | None = None) -> list[Slack]:
    """Of each input that the finding answers to (all of `INPUTS`, or those whose paths are given): the range over which
    its verdict stays.

    Raises:
        ValueError: for a finding that this design does not have.
    """
    if finding.startswith(ZONE):  # a place that is there or not hangs on no figure of the truck
        return []
    asked = _Asked(design, finding)
    found = []
    for one in INPUTS:
        if finding.startswith(RUN) and one.path not in _CARRIED:
            continue
        if (inputs is None or one.path in inputs) and asked.answers(one):
            now = asked.value(one)
            ends = (one.low * now, min(one.high * now, one.most))
            low, high = (asked.changes_at(one, now, end) for end in ends)
            found.append(Slack(one.path, one.words, one.unit, now, low, high, ends))
    return found


class _Asked:
    def __init__(self, design: Design, finding: str) -> None:
        self.design, self.finding = design, finding
        self.verdict = self._verdict(design)

    def value(self, one: Input) -> float:
        group, name = one.path.split(".")
        return float(getattr(getattr(self.design, group), name))

    def answers(self, one: Input) -> bool:
        """Whether the figure, or how far it stands from its band, is another for another input."""
        now = self.value(one)
        other = now * (1.0 + 0.5 * (one.high - 1.0)) if now * one.high <= one.most else now * one.low
        if other == now:
            return False
        return bool(np.any(np.abs(self._stands(self._with(one, other)) - self._stands(self.design)) > _ANSWERS))

    def changes_at(self, one: Input, now: float, end: float) -> float | None:
        """Where on the way from `now` to `end` the verdict first is another; None where it never is."""
        if end == now:
            return None
        same = now
        for part in np.linspace(0.0, 1.0, _SAMPLES + 1)[1:]:
            at = now + float(part) * (end - now)
            if not self._same(one, at):
                return self._between(lambda value: self._same(one, value), same, at)
            same = at
        return None

    def _between(self, stays: Callable[[float], bool], same: float, other: float) -> float:
        for _ in range(_HALVINGS):
            middle = (same + other) / 2.0
            same, other = (middle, other) if stays(middle) else (same, middle)
        return same

    def _same(self, one: Input, value: float) -> bool:
        return self._verdict(self._with(one, value)) == self.verdict

    def _with(self, one: Input, value: float) -> Design:
        data = design_data(self.design)
        group, name = one.path.split(".")
        data[group] = {**data[group], name: value}
        return design_from(data)

    def _verdict(self, design: Design) -> tuple[int, int]:
        """On which side of its band, and how grave."""
        if self.finding.startswith(RUN):
            check = self._check(design)
            return (check.side, check.grave) if check else (0, GOOD)
        judged = judge(sweep_many(design, mechanism_of(design), _ROWS))
        side = int(judged.side[judged.figures.index(self.finding), 0]) if self.finding in judged.figures else 0
        if self.finding not in judged.ids:
            raise ValueError(f"{self.finding} is not judged here")
        return side, judged.grave().get(self.finding, GOOD)

    def _check(self, design: Design) -> Check | None:
        """What runs with the axle, judged; None for a figure that this design then has no more.

        Raises:
            ValueError: for a finding that the design in question does not have.
        """
        found = next((one for one in checks(cycle(design, _ROWS)) if one.id == self.finding), None)
        if found is None and design is self.design:
            raise ValueError(f"{self.finding} is not judged here")
        return found

    def _stands(self, design: Design) -> Floats:
        if self.finding.startswith(RUN):
            check = self._check(design)
            return np.array([check.value if check and check.value is not None else 0.0])
        judged = judge(sweep_many(design, mechanism_of(design), _ROWS))
        if self.finding not in judged.figures:
            return np.zeros(3)
        row = judged.figures.index(self.finding)
        found: Floats = np.nan_to_num(np.array([judged.value[row, 0], judged.low[row, 0], judged.high[row, 0]]))
        return found
