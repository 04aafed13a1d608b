"""The range of a figure over which a verdict stays what it is."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

_SAMPLES = 4
_HALVINGS = 8


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

    def ends(self, now: float) -> tuple[float, float]:
        """From where to where it is tried."""
        return self.low * now, min(self.high * now, self.most)

    def other(self, now: float) -> float:
        """Another value, to see whether anything answers to it."""
        return now * (1.0 + 0.5 * (self.high - 1.0)) if now * self.high <= self.most else now * self.low


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


def slack_of(one: Input, now: float, stays: Callable[[float], bool]) -> Slack:
    """The range of an input, now at that value, over which a verdict `stays`."""
    ends = one.ends(now)
    low, high = (_changes_at(stays, now, end) for end in ends)
    return Slack(one.path, one.words, one.unit, now, low, high, ends)


def _changes_at(stays: Callable[[float], bool], now: float, end: float) -> float | None:
    """Where on the way from `now` to `end` the verdict first is another; None where it never is."""
    if end == now:
        return None
    same = now
    for part in np.linspace(0.0, 1.0, _SAMPLES + 1)[1:]:
        at = now + float(part) * (end - now)
        if not stays(at):
            return _between(stays, same, at)
        same = at
    return None


def _between(stays: Callable[[float], bool], same: float, other: float) -> float:
    for _ in range(_HALVINGS):
        middle = (same + other) / 2.0
        same, other = (middle, other) if stays(middle) else (same, middle)
    return same
