"""What is offered against a finding: a cure with its price."""

from dataclasses import dataclass
from typing import Any

from oak_lever.design.values import Point
from oak_lever.move.coordinates import Shift


@dataclass(frozen=True)
class Worsened:
    """A figure that a cure leaves farther out of its band, or nearer to its edge, than it was: by the id of what is
    judged, and by that of the figure."""

    id: str
    figure: str
    before: float
    after: float


@dataclass(frozen=True)
class Cure:
    """What to do about a finding, in words, and its price; the design as it then is; where mounts that it moves then
    are. `meets`: the figure is then in its band; else it only comes nearer, or the finding is less grave.

    `figures`: what is judged, after it. `cures`, `worse`: findings less grave, and graver. `worsens`: every figure that
    is worse by more than a shop can see.
    """

    words: str
    price: str
    meets: bool
    shifts: tuple[Shift, ...]
    at: dict[str, Point]
    document: dict[str, Any]
    figures: dict[str, float | None]
    cures: tuple[str, ...]
    worse: tuple[str, ...]
    worsens: tuple[Worsened, ...]
