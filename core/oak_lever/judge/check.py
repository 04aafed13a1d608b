"""One figure of a design, or of a part of it, judged: what every verdict is made of, wherever it comes from."""

from dataclasses import dataclass
from math import inf

from oak_lever.design.types import Design
from oak_lever.figures.register import USES, Figure, Limits, Severity, Unit
from oak_lever.judge.house import DEFAULT_SCHOOL, DEFAULT_USE, SCHOOLS
from oak_lever.judge.places import Place

SEVERITIES: tuple[Severity, ...] = ("good", "consider", "fix", "stop")
GOOD, CONSIDER, FIX, STOP = range(4)
ROUNDING = 1e-6
"""A figure that stands on its band's edge but for rounding is inside."""


@dataclass(frozen=True)
class Fact:
    """Something beside a finding's value that can be told in figures: what, how much, in which unit."""

    words: str
    value: float
    unit: Unit


@dataclass(frozen=True)
class Check:
    """A figure's value in its register's unit (None: beyond measure, or a fault that has none), the place where it is
    so, the band and where that is from, how grave it is, which side of the band it is on, and words that are this
    design's own: `said` beside the register's, `title` and `told` in their place. `part`: the part it is of, "" for the
    design as a whole."""

    figure: Figure
    part: str
    value: float | None
    place: Place
    low: float | None
    high: float | None
    source: str
    grave: int
    side: int
    said: str = ""
    guessed: str = ""
    title: str = ""
    told: str = ""
    facts: tuple[Fact, ...] = ()

    @property
    def id(self) -> str:
        """Names it among all that is judged of a design; to be compared, and never to be taken apart."""
        return f"{self.figure.id} {self.part}" if self.part else self.figure.id

    @property
    def short(self) -> float:
        """How far outside the band, in the figure's unit; 0 inside it."""
        if self.value is None:
            return 0.0 if self.grave == GOOD else inf
        return max(self.value - (inf if self.high is None else self.high),
                   (-inf if self.low is None else self.low) - self.value, 0.0)  # fmt: skip

    @property
    def bad(self) -> float:
        """How bad it is, in the figure's unit, to be compared with another: of the design's own figures that only ever
        want less, or more, also inside the band."""
        if self.value is None or self.figure.of != "design":
            return self.short
        if self.low is None and self.high is not None:
            return self.value
        if self.high is None and self.low is not None:
            return -self.value
        return self.short


def band_of(design: Design, figure: Figure) -> tuple[Limits, str]:
    """The band a figure is held against, in multiples of its scale where it has one, and where it comes from: the
    design's own, its school's, or the house's for its use."""
    if design.bands and figure.id in design.bands:
        return design.bands[figure.id], OWN
    if figure.verdict is None:
        return (None, None), ""
    use, school = design.use or DEFAULT_USE, SCHOOLS[design.school or DEFAULT_SCHOOL]
    if figure.id in school.bands:
        return school.bands[figure.id], f"school: {school.name.lower()}"
    return figure.verdict.bands[use], f"house value for {USES[use].lower()}"


OWN = "set for this truck"
WIDER = "set for this truck, wider than where it stops working: held to that"
"""Where a band comes from that a truck's own would have silenced a stop with."""
