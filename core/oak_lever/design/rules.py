"""Rules that bind: a class's book, local law, an insurer. The user's own, each with where it is written."""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from oak_lever.design.values import Name, Number, Part, refuse


class Bound(Part):
    """`words`: what it says; `written`: where; `end`: the axle that it is about (None: both)."""

    id: Name
    words: Annotated[str, Field(min_length=1, max_length=500)]
    written: Annotated[str, Field(max_length=500)] = ""
    end: Literal["front", "rear"] | None = None


class Limited(Bound):
    """No less than `low`, no more than `high`."""

    low: Number | None = None
    high: Number | None = None

    @model_validator(mode="after")
    def _limits(self) -> Self:
        if self.low is None and self.high is None:
            refuse("limits", "says no limit; give the least or the most that is allowed")
        if self.low is not None and self.high is not None and self.low > self.high:
            refuse("limits", "allows less than nothing: its least is more than its most")
        return self


class FigureRule(Limited):
    """Of a figure that is judged, by its id, in its unit."""

    kind: Literal["figure"]
    figure: Name


class DistanceRule(Limited):
    """Of the distance between two mounts by their names, center to center at ride, mm."""

    kind: Literal["distance"]
    from_: Annotated[Name, Field(alias="from")]
    to: Name


class HeightRule(Limited):
    """Of a mount's height over the floor at ride, mm."""

    kind: Literal["height"]
    of: Name


class HandRule(Bound):
    """Looked at by a person; `checked` once it was, and holds."""

    kind: Literal["hand"]
    checked: bool = False
    by: Annotated[str, Field(max_length=200)] = ""


Rule = Annotated[FigureRule | DistanceRule | HeightRule | HandRule, Field(discriminator="kind")]
Rules = Annotated[tuple[Rule, ...], Field(max_length=200)]
