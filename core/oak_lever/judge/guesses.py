"""How far off a figure of the truck may be before a verdict changes: what matters most of a figure that was guessed."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

import numpy as np

from oak_lever.cycle import Swept, cycle, sweep_many
from oak_lever.design.remembered import remembered
from oak_lever.design.replaced import replaced
from oak_lever.design.types import Design
from oak_lever.judge.carried import FACTORS_OF
from oak_lever.judge.check import GOOD, Check
from oak_lever.judge.judged import judge
from oak_lever.judge.load_guesses import load_slack
from oak_lever.judge.parts import check_of
from oak_lever.judge.ranges import Input, Slack, slack_of
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import mechanism_of

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


_CARRIED = ("vehicle.mass", "vehicle.front_share")
"""What a verdict on springs hangs on; on all else that runs with the axle the weights have no say."""
_ROWS = 11
_ANSWERS = 1e-9


def slack(design: Design, finding: str, inputs: Sequence[str] | None = None) -> list[Slack]:
    """Of each input that the finding answers to (all of `INPUTS`, or those whose paths are given): the range over which
    its verdict stays.

    Raises:
        ValueError: for a finding that this design does not have.
    """
    before = verdicts_on(design)
    check = before.by_id.get(finding)
    aside = next((one for one, _ in before.apart if one.id == finding), None)
    if check is None and aside is None:
        raise ValueError(f"{finding} is not judged here")
    if aside is not None and aside.figure.id in FACTORS_OF:
        return load_slack(design, aside, inputs)
    # a gap, a place that is there or not, what another binds: they hang on none of them
    if check is None or check.figure.of in ("mount", "rule"):
        return []
    asked = _Asked(before, check)
    found = []
    for one in INPUTS:
        if check.figure.of != "design" and one.path not in _CARRIED:
            continue
        if (inputs is None or one.path in inputs) and asked.answers(one):
            found.append(slack_of(one, asked.value(one), partial(asked.same, one)))
    return found


@dataclass(frozen=True)
class _Answer:
    """On which side of its band a figure is and how grave that is; its value and the band, to see whether it moved."""

    side: int
    grave: int
    stands: tuple[float, ...]

    @property
    def verdict(self) -> tuple[int, int]:
        return self.side, self.grave


@remembered(2)
def _sweeps(_: Design) -> dict[tuple[str, float], Swept]:
    """A design swept with an input at another value, by the input's path and the value: every finding is then judged on
    what one sweep has worked out."""
    return {}


def _swept(design: Design) -> Swept:
    return sweep_many(design, mechanism_of(design), _ROWS)


def _answer_of(swept: Swept, name: str) -> _Answer:
    """Of a finding on the axle's motion, or on what it is to the truck."""
    judged = judge(swept, name)
    grave = judged.grave().get(name, GOOD)
    if name not in judged.figures:
        return _Answer(0, grave, (0.0, 0.0, 0.0))
    row = judged.figures.index(name)
    stands = np.nan_to_num(np.array([judged.value[row, 0], judged.low[row, 0], judged.high[row, 0]])).tolist()
    return _Answer(int(judged.side[row, 0]), grave, tuple(stands))


class _Asked:
    def __init__(self, before: Verdicts, check: Check) -> None:
        self.design, self._check = before.design, check
        self._cycled = None if check.figure.of == "design" else cycle(self.design, _ROWS)
        self.now = self._answer(self.design)

    def value(self, one: Input) -> float:
        group, name = one.path.split(".")
        return float(getattr(getattr(self.design, group), name))

    def answers(self, one: Input) -> bool:
        """Whether the figure, or how far it stands from its band, is another for another input."""
        now = self.value(one)
        other = one.other(now)
        if other == now:
            return False
        then = self._at(one, other)
        return any(abs(a - b) > _ANSWERS for a, b in zip(then.stands, self.now.stands, strict=True))

    def same(self, one: Input, value: float) -> bool:
        """Whether the verdict is what it is with the input at that value."""
        return self._at(one, value).verdict == self.now.verdict

    def _at(self, one: Input, value: float) -> _Answer:
        group, name = one.path.split(".")
        if self._cycled is not None:
            return self._answer(replaced(self.design, {(group, name): value}))
        known = _sweeps(self.design)
        if (one.path, value) not in known:
            known[one.path, value] = _swept(replaced(self.design, {(group, name): value}))
        return _answer_of(known[one.path, value], self._check.id)

    def _answer(self, design: Design) -> _Answer:
        if self._cycled is None:
            return _answer_of(_swept(design), self._check.id)
        check = check_of(self._cycled, design, self._check, fresh=False)
        if check is None:
            return _Answer(0, GOOD, (0.0,))
        return _Answer(check.side, check.grave, (check.value or 0.0,))
