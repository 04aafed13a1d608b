"""The kinds of number a file holds, each with its bounds, and the base of every part of a file."""

from typing import Annotated, Any, Self

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, Strict
from pydantic_core import PydanticCustomError

from oak_lever import tolerances as tol

Number = Annotated[float, Strict()]
Mm = Annotated[Number, Field(ge=-tol.LARGEST_MM, le=tol.LARGEST_MM)]
Size = Annotated[Number, Field(gt=0, le=tol.LARGEST_MM)]
Reach = Annotated[Number, Field(ge=0, le=tol.LARGEST_MM)]
Kg = Annotated[Number, Field(gt=0, le=tol.LARGEST_KG)]
Share = Annotated[Number, Field(ge=0, le=1)]
Deg = Annotated[Number, Field(ge=-360, le=360)]
Tilt = Annotated[Number, Field(gt=-90, lt=90)]
"""An angle from upright, degrees: less than a quarter turn either way."""
Point = tuple[Mm, Mm, Mm]
Direction = tuple[Number, Number, Number]
Name = Annotated[str, Field(min_length=1, max_length=200)]
Notes = Annotated[str, Field(max_length=20_000)]


class Part(BaseModel):
    """Base of every part of a file: never changed, unknown keys kept."""

    model_config = ConfigDict(extra="allow", frozen=True, allow_inf_nan=False, defer_build=True)

    def rewritten(self, **changes: Any) -> Self:
        """A copy with some fields changed, validated anew; unknown keys come along."""
        return type(self).model_validate({**dict(self), **changes})


def apart(one: Point, other: Point, complaint: str) -> None:
    """Refuse two points that are one point."""
    if max(abs(a - b) for a, b in zip(one, other, strict=True)) < tol.COINCIDENT_MM:
        raise PydanticCustomError("coincident", complaint)


def refuse(kind: str, complaint: str) -> None:
    """Refuse a part for a reason that its fields' own bounds do not show."""
    raise PydanticCustomError(kind, complaint)


def _some_direction(bolt: Direction) -> Direction:
    if max(map(abs, bolt)) == 0:
        refuse("no_direction", "has no direction; give a bolt axis that is not [0, 0, 0]")
    return bolt


Bolt = Annotated[Direction, AfterValidator(_some_direction)]


def _low_below_high(band: tuple[float | None, float | None]) -> tuple[float | None, float | None]:
    low, high = band
    if low is not None and high is not None and low > high:
        refuse("band", "must have its low end below its high end")
    return band


Band = Annotated[tuple[Number | None, Number | None], AfterValidator(_low_below_high)]
"""Low and high end of what is wanted of a figure; null: open on that side."""
Bands = Annotated[dict[Name, Band], Field(max_length=100)]
