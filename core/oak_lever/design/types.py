"""The types of a design file. They are the schema: what they publish is what the reader accepts.

All points are (x, y, z) in mm in the chassis frame at ride height: x ahead of the axle's center,
y to the left of the truck's centerline, z above the floor.
"""

from typing import Annotated, Literal

from pydantic import Field

from oak_lever.design.axle import Axle, Rails, Travel, Vehicle
from oak_lever.design.cutting import Brackets, Truss
from oak_lever.design.hand import HandReading
from oak_lever.design.links import AnyLink, Lateral
from oak_lever.design.loads import Joints, Loads, Materials
from oak_lever.design.room import Room
from oak_lever.design.rules import Rules
from oak_lever.design.running_gear import Corners, Driveshaft, Steering
from oak_lever.design.values import Bands, Name, Notes, Part

Use = Literal["crawling", "trail", "street", "strip", "desert"]
School = Literal[
    "numbers_first", "hold_pinion", "short_upper", "converge_on_a_point", "flat_and_long", "window", "what_fits"
]
Axes = Literal["x", "y", "z", "xy", "xz", "yz", "xyz"]


class Design(Part):
    """One axle's suspension. `use` and `school` choose the bands it is judged by, `bands` replaces some of them, and
    `rules` bind beside them; `joints` replaces or adds entries of the joint catalog, `materials` those of materials;
    `loads` says what a strength reckoning rests on; `brackets` are pairs of plates that hold mounts,
    `truss` what stiffens the axle tube.

    `as_found`: recorded off the truck before it was stripped; such a design keeps its own tires, track and weights.

    `hand`: what a hand cycle with pipe for links measured.

    `locks` says along which axes a mount must stay where it is, by the mount's name (`upper-left.frame`: `xz`);
    `unpaired` names mounts that do not move with their mirror image.
    """

    format: Literal["oak-lever-design"]
    version: Literal[1]
    name: Name
    notes: Notes = ""
    axle: Axle
    vehicle: Vehicle
    travel: Travel
    links: Annotated[tuple[AnyLink, ...], Field(max_length=12)]
    lateral: Lateral | None
    rails: Rails | None = None
    use: Use | None = None
    school: School | None = None
    bands: Bands | None = None
    rules: Rules | None = None
    joints: Joints | None = None
    loads: Loads | None = None
    materials: Materials | None = None
    brackets: Brackets | None = None
    truss: Truss | None = None
    locks: Annotated[dict[Name, Axes], Field(max_length=100)] | None = None
    unpaired: Annotated[tuple[Name, ...], Field(max_length=100)] | None = None
    room: Room | None = None
    driveshaft: Driveshaft | None = None
    steering: Steering | None = None
    corners: Corners | None = None
    hand: Annotated[tuple[HandReading, ...], Field(max_length=200)] | None = None
    as_found: bool = False
