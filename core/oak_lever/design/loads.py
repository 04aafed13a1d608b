"""What a strength reckoning rests on: load factors, cases, materials, fasteners, and how a threaded end is made."""

from collections.abc import Mapping, Sequence
from typing import Annotated, Literal

from pydantic import Field

from oak_lever.design.values import Mm, Name, Number, Part, Reach, Size

Newtons = Annotated[Number, Field(ge=-1e9, le=1e9)]
Force = tuple[Newtons, Newtons, Newtons]
Factor = Annotated[Number, Field(ge=0, le=100)]
Stress = Annotated[Number, Field(gt=0, le=1e5)]
"""MPa."""


class Material(Part):
    """Yield and modulus in MPa, density in kg/m^3."""

    name: Annotated[str, Field(max_length=200)] = ""
    yield_: Annotated[Stress, Field(alias="yield")]
    modulus: Annotated[Number, Field(gt=0, le=1e7)]
    density: Annotated[Number, Field(gt=0, le=1e5)]


Materials = Annotated[dict[Name, Material], Field(max_length=100)]


class Fastener(Part):
    """A joint's bolt: diameter, yield (MPa), and in how many planes it is sheared."""

    diameter: Size
    yield_: Annotated[Stress, Field(alias="yield")]
    planes: Annotated[Number, Field(gt=0, le=10)] = 2.0


class LoadCase(Part):
    """A case of the user's own: forces of the ground on the left and the right tire, N, chassis axes, in a pose."""

    id: Name
    travel: Mm = 0.0
    articulation: Annotated[Number, Field(gt=-90, lt=90)] = 0.0
    left: Force
    right: Force
    driven: bool = False
    abuse: bool = False


class Loads(Part):
    """Grip fore-aft and sideways, the weights that a landing, a strike and a rock multiply; what part of a plate's
    yield in shear this shop's welds hold; the most torque at this axle (N m) and the final drive's ratio, where they
    are known; which way the shaft's torque turns the housing."""

    grip: Factor = 0.9
    grip_side: Factor = 0.8
    landing: Factor = 3.0
    strike: Factor = 2.0
    rock: Factor = 1.0
    weld: Annotated[Number, Field(gt=0, le=1)] = 0.7
    torque: Annotated[Number, Field(gt=0, le=1e7)] | None = None
    final_ratio: Annotated[Number, Field(gt=0, le=100)] | None = None
    shaft_turns: Literal["usual", "other"] = "usual"
    cases: Annotated[tuple[LoadCase, ...], Field(max_length=50)] = ()


class Threaded(Part):
    """An end with a thread, mm from the ball's center: to the shank's tip, and to where its nut comes to sit at the
    nearest; the nut; the least of the shank that must be in; the bung's flange; the thread and its yield (MPa);
    whatever of it is known."""

    kind: Literal["threaded"]
    shank: Size | None = None
    shoulder: Reach | None = None
    nut: Reach | None = None
    least_in: Reach | None = None
    pitch: Size | None = None
    flange: Reach = 0.0
    thread: Size | None = None
    yield_: Annotated[Stress | None, Field(alias="yield")] = None


class Sleeve(Part):
    """An eye welded to the coped tube, square to it; its outside diameter, mm."""

    kind: Literal["sleeve"]
    outside: Size


JointEnd = Annotated[Threaded | Sleeve, Field(discriminator="kind")]


class JointKind(Part):
    """An entry of the joint catalog: how far the joint turns out of its bolt's square before it runs out, degrees, and
    how much its bushing may be asked to give, mm. Where they are known: what it carries across its bolt (N), how wide
    it is between its tabs with its spacers on, its bolt's diameter, and how its end is made."""

    name: Annotated[str, Field(max_length=200)] = ""
    limit: Annotated[Number, Field(gt=0, le=90)]
    give: Annotated[Number, Field(ge=0, le=100)]
    rating: Annotated[Number, Field(gt=0, le=1e9)] | None = None
    width: Size | None = None
    bolt: Size | None = None
    end: JointEnd | None = None


Joints = Annotated[dict[Name, JointKind], Field(max_length=100)]
"""Entries of the joint catalog, by what a mount's `joint` calls them; they replace the generic ones, or add to them."""


def per_turn(joints: Mapping[str, JointKind] | None, entries: Sequence[str | None]) -> float | None:
    """How much longer a turn makes a bar whose joints are these entries of the catalog, mm: the pitches of its threaded
    ends together; None where it is not known how an end is made."""
    total = 0.0
    for entry in entries:
        kind = (joints or {}).get(entry or "")
        end = kind.end if kind else None
        if end is None or (isinstance(end, Threaded) and end.pitch is None):
            return None
        if isinstance(end, Threaded) and end.pitch is not None:
            total += end.pitch
    return total


def thread_room(joints: Mapping[str, JointKind] | None, entries: Sequence[str | None]) -> float | None:
    """How far a bar whose joints are these entries may be turned longer, or as much shorter, from halfway, mm: of each
    threaded end half of what lies between its nut at the nearest and the least of the shank that must be in; None where
    that is not known."""
    total = 0.0
    for entry in entries:
        kind = (joints or {}).get(entry or "")
        end = kind.end if kind else None
        if isinstance(end, Threaded):
            if end.shank is None or end.shoulder is None or end.nut is None or end.least_in is None:
                return None
            total += max(end.shank - end.least_in - end.shoulder - end.nut, 0.0) / 2.0
        elif end is None:
            return None
    return total
