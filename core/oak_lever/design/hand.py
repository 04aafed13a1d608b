"""Readings of a hand cycle: the axle jacked up and down with pipe for links, and what was measured there."""

from typing import Annotated, Literal

from pydantic import Field

from oak_lever.design.values import Mm, Number, Part

Measured = Literal["pinion_change", "caster_change", "axle_x", "axle_y", "yaw"]
"""What can be read at an axle on a jack: the turn of the housing or of the axle in plan (degrees); how far it has moved
ahead and to the left (mm). All from ride."""


class HandReading(Part):
    """Where the axle stood, travel (mm) and articulation (degrees), and what was read there, from ride."""

    travel: Mm
    articulation: Annotated[Number, Field(gt=-90, lt=90)] = 0.0
    figure: Measured
    value: Annotated[Number, Field(ge=-10_000, le=10_000)]
