"""What lands on the frame: the largest force at each mount, and how it would twist the rail that it stands on.

The rail is taken as straight, along the truck, at the section that is drawn. A force that passes it at a distance
twists it about the line through its shear centers: the middle of a boxed rail or a round tube; of an open C, whose
flanges point inward, a line outside its web by 3 b^2 / (h + 6 b), b from the web's middle to the flange's edge, h
between the flanges' middles (Gere and Goodno, Mechanics of Materials, 6.8: thin walls of one thickness). In twist an
open C has (2 b + h) t^3 / 3, boxed by a plate of its wall 2 b^2 h^2 t / (b + h) (the same, 3.10). N, mm, N mm, mm^4.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import hypot
from typing import Literal

from oak_lever.design.axle import RailMake, Rails
from oak_lever.design.links import Watts
from oak_lever.design.parts import said
from oak_lever.design.types import Design
from oak_lever.strength.judged import case_words
from oak_lever.strength.loads import Carried, Push, Reckoned

REACH_MM = 150.0
"""A mount within this of a rail's section is taken to stand on it; one farther in stands on what is between them."""
_LEAST_N = 0.01
_SIDES: tuple[Literal["left", "right"], ...] = ("left", "right")

Side = Literal["left", "right"]


@dataclass(frozen=True)
class Landing:
    """A mount of a part on the frame: the largest force on the frame there, N, its parts forward, to the left and up,
    and in which case. Near a rail: which; the worst that it is twisted with, N mm, without sign; how far that force
    passes from the line about which the rail twists, mm; and in which case. None away from the rails, and where no
    rails are known."""

    mount: str
    words: str
    force: float
    along: tuple[float, float, float]
    case: str
    rail: Side | None
    lever: float | None
    twist: float | None
    twist_case: str | None


def landings(design: Design, found: Reckoned) -> list[Landing]:
    """Every mount on the frame that carries something in some case, the largest force first."""
    by_mount: dict[str, list[tuple[str, Push]]] = {}
    for one in found.cases:
        for name, push in _on_frame(design, one):
            by_mount.setdefault(name, []).append((one.case.id, push))
    made = (_landing(design, name, pushes) for name, pushes in by_mount.items())
    return sorted((one for one in made if one is not None), key=lambda one: -one.force)


def _on_frame(design: Design, one: Carried) -> Iterator[tuple[str, Push]]:
    """The pushes on the frame, by mount; a crank that turns on the frame brings both its rods' to its pin."""
    lateral, pushes = design.lateral, [push for push in one.pushes if push.on == "frame"]
    if isinstance(lateral, Watts) and lateral.pivot.on == "frame":
        rods = [push for push in pushes if push.part.startswith("watts-")]
        pushes = [push for push in pushes if push not in rods]
        if rods:
            x, y, z = (sum(push.force[k] for push in rods) for k in range(3))
            yield "watts.pivot", Push("watts", "frame", lateral.pivot.at, (x, y, z))
    yield from ((f"{push.part}.frame", push) for push in pushes)


def _landing(design: Design, mount: str, pushes: Sequence[tuple[str, Push]]) -> Landing | None:
    case, worst = max(pushes, key=lambda one: hypot(*one[1].force))
    if hypot(*worst.force) < _LEAST_N:
        return None
    rail = _rail_at(design.rails, worst.at)
    twist = lever = twist_case = None
    if rail is not None and design.rails is not None:
        line = shear_line(design.rails, rail)
        twist, lever, twist_case = max((*_twist(line, push), name) for name, push in pushes)
    part = "pivot of the Watts link" if mount == "watts.pivot" else said(design, worst.part)
    return Landing(
        mount, f"{part} at the frame", hypot(*worst.force), worst.force, case_words(case), rail, lever, twist,
        None if twist_case is None else case_words(twist_case),
    )  # fmt: skip


def _rail_at(rails: Rails | None, at: tuple[float, float, float]) -> Side | None:
    """The rail whose section is within reach of a place."""
    if rails is None:
        return None
    outer, (_, y, z) = rails.outside_width / 2.0, at
    beside = max(outer - rails.flange - abs(y), abs(y) - outer, 0.0)
    above = max(rails.underside - z, z - rails.underside - rails.depth, 0.0)
    if hypot(beside, above) > REACH_MM:
        return None
    return "left" if y > 0.0 else "right"


def _twist(line: tuple[float, float], push: Push) -> tuple[float, float]:
    """How much a force twists the rail about its line, and how far from it the force passes, seen along the rail."""
    (y, z), (_, fy, fz) = line, push.force
    twist = abs((push.at[1] - y) * fz - (push.at[2] - z) * fy)
    across = hypot(fy, fz)
    return twist, twist / across if across > _LEAST_N else 0.0


# rails


def make_of(rails: Rails, side: Side) -> RailMake:
    """How a rail is made: the right one as the left in all that nobody has said otherwise."""
    left, right = rails.left or RailMake(), rails.right or RailMake()
    return left if side == "left" else RailMake(made=right.made or left.made, wall=right.wall or left.wall)


def shear_line(rails: Rails, side: Side) -> tuple[float, float]:
    """y and z of the line that a rail twists about, mm; one whose make nobody has said is taken as closed."""
    make, hand = make_of(rails, side), 1.0 if side == "left" else -1.0
    outer, z = rails.outside_width / 2.0, rails.underside + rails.depth / 2.0
    if make.made != "open":
        return hand * (outer - rails.flange / 2.0), z
    b, h, wall = _middles(rails, make)
    return hand * (outer - wall / 2.0 + 3.0 * b**2 / (h + 6.0 * b)), z


def boxed_is_stiffer(rails: Rails, make: RailMake) -> float | None:
    """How many times as stiff in twist an open rail would be, boxed by a plate of its own wall; None where it is not
    open, or its wall is not known."""
    if make.made != "open" or make.wall is None:
        return None
    b, h, wall = _middles(rails, make)
    return (2.0 * b**2 * h**2 * wall / (b + h)) / ((2.0 * b + h) * wall**3 / 3.0)


def _middles(rails: Rails, make: RailMake) -> tuple[float, float, float]:
    """From the web's middle to the flange's edge, between the flanges' middles, and the wall: none is taken as thin."""
    wall = make.wall or 0.0
    return rails.flange - wall / 2.0, rails.depth - wall, wall


def frame_prompts(design: Design, found: Sequence[Landing]) -> list[str]:
    """What a person has to judge of the frame where forces land on it; figures only where they are known."""
    rails = design.rails
    if rails is None:
        return ["The frame's rails are not known: draw them under Truck, and how they are made."]
    makes = {side: make_of(rails, side) for side in _SIDES}
    told = []
    if any(make.made is None for make in makes.values()):
        told.append(
            "Nobody has said whether the rails are open, boxed or tube (Truck, The frame's rails): levers are from the "
            "middle of the section; an open rail twists about a line outside its web."
        )
    elif makes["left"].made != makes["right"].made:
        told.append("One rail is made unlike the other: what both should share goes to the stiffer one.")
    told += _of_open(rails, makes, found)
    told.append(
        "Spread what lands on a rail over a plate with tapered ends; a patch that ends square leaves a step beside a "
        "frame that must twist. What holds the rail there (a crossmember, a body mount) is not drawn here."
    )
    return told


def _of_open(rails: Rails, makes: dict[Side, RailMake], found: Sequence[Landing]) -> Iterator[str]:
    for side in _SIDES:
        here = [one for one in found if one.rail == side and one.twist]
        if makes[side].made != "open" or not here:
            continue
        worst, times = max(here, key=lambda one: one.twist or 0.0), boxed_is_stiffer(rails, makes[side])
        boxed = f"; boxed with its own wall it is {times or 0.0:.0f} times as stiff against twist, its ends free"
        stiffer = "" if times is None else boxed
        yield f"The {side} rail is open, and twisted the most by the {worst.words}, {worst.twist_case}{stiffer}."
