"""Where something is so: a pose, travel and articulation both, and the parts it is about, by their names."""

from dataclasses import dataclass


@dataclass(frozen=True)
class Place:
    """`travel` (mm) and `articulation` (degrees) of the pose, None where it does not matter; `parts` are names of the
    table of parts: a body (`lower-left`) or one of its joints (`lower-left.axle`); `case`: the load case, by its id."""

    travel: float | None = None
    articulation: float | None = None
    parts: tuple[str, ...] = ()
    case: str | None = None


NOWHERE = Place()
