"""The one table of parts: which points each kind of part has, what is drawn between them, and what they constrain.

From it come the mechanism, the coordinates that may be moved, the drawing on the screen and on the sheet, and every
part's name. It is plain data, and the page has it too: there and here a short reader goes through a design with it.
A new kind of part is its type in the file and its row here.

Names are templates: `{id}` is the part's own, `{on}` the body that carries the point. A body is named outright (`axle`,
`frame`), or by a path in the part where the file says it (`@pivot.on`), or as the other of the two (`!pivot.on`).
"""

from collections.abc import Iterator
from dataclasses import asdict, dataclass
from functools import lru_cache
from math import dist
from typing import Any, Literal

from oak_lever.design.links import TUBE_MM, crank_end
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.design.values import Direction, Point

Path = tuple[str | int, ...]
Shape = Literal["link", "arm", "crank", "shoe", "strut", "shock"]
"""How a body is drawn: a tube with an eye at each end; two tubes from an arm's bolts to its eye; a bell crank; a
slider's shoe; a plain tube; a body with a shaft out of it."""
DISTANCE = -1
FORE_AFT, SIDEWAYS, UPRIGHT = 0, 1, 2


@dataclass(frozen=True)
class PointRow:
    """A point that the file gives, at `path` in its part. `was`: what it was called in older files."""

    name: str
    path: Path
    words: str
    on: str
    was: str | None = None


@dataclass(frozen=True)
class SwungRow:
    """An end of a bell crank: the part's `arm` above (`hand` 1) or below (-1) the point `about`, turned by `tilt`."""

    name: str
    about: str
    hand: int
    on: str


@dataclass(frozen=True)
class MiddleRow:
    """A point midway between two of the part's."""

    name: str
    of: tuple[str, str]
    on: str


@dataclass(frozen=True)
class ElsewhereRow:
    """A point that stands elsewhere in the file, at `at` from its root: it is drawn to, and moved where it belongs."""

    name: str
    at: Path
    on: str


@dataclass(frozen=True)
class BodyRow:
    """What is drawn and named between two points; its diameter stands at `size` in the part, or is the standard one."""

    name: str
    words: str
    shape: Shape
    a: str
    b: str
    size: Path = ("tube", "diameter")
    standard: float = TUBE_MM


@dataclass(frozen=True)
class HoldRow:
    """A constraint: the length of a body, or one coordinate (axis) of an axle point, by the name of either."""

    of: str
    axis: int = DISTANCE


@dataclass(frozen=True)
class Kind:
    """A kind of part: where in the file its parts stand (`*`: each of a list), and which `kind` they say, if any.
    `lateral`: it is what locates the axle sideways, one a design."""

    key: str
    where: Path
    tag: bool
    id: str | None
    words: str | None
    points: tuple[PointRow, ...]
    derived: tuple[SwungRow | MiddleRow | ElsewhereRow, ...] = ()
    bodies: tuple[BodyRow, ...] = ()
    holds: tuple[HoldRow, ...] = ()


_AXLE = PointRow("{id}.axle", ("axle", "at"), "axle end", "axle")
_FRAME = PointRow("{id}.frame", ("frame", "at"), "frame end", "frame")


def _link(kind: str) -> Kind:
    body = BodyRow("{id}", "{words} link", "link", "{id}.axle", "{id}.frame")
    return Kind(kind, ("links", "*"), True, None, None, (_AXLE, _FRAME), (), (body,), (HoldRow("{id}"),))


def _strut(kind: str, listed: str, standard: float, shape: Shape = "strut") -> Kind:
    """What constrains nothing: it is drawn, and its eyes are moved, locked, paired and named as any mount."""
    eyes = (
        PointRow("{id}.frame", ("frame", "at"), "frame eye", "frame"),
        PointRow("{id}.axle", ("axle", "at"), "lower eye", "@axle.on"),
    )
    body = BodyRow("{id}", "{words}", shape, "{id}.axle", "{id}.frame", ("diameter",), standard)
    return Kind(kind, ("corners", listed, "*"), False, None, None, eyes, (), (body,))


KINDS: tuple[Kind, ...] = (
    _link("lower"),
    _link("upper"),
    Kind(
        "radius_arm", ("links", "*"), True, None, None,
        (
            PointRow("{id}.axle.0", ("axle", "at", 0), "axle bolt 1", "axle"),
            PointRow("{id}.axle.1", ("axle", "at", 1), "axle bolt 2", "axle"),
            _FRAME,
        ),
        (MiddleRow("{id}.axle", ("{id}.axle.0", "{id}.axle.1"), "axle"),),
        (BodyRow("{id}", "{words}", "arm", "{id}.axle", "{id}.frame"),),
        (HoldRow("{id}.frame", FORE_AFT), HoldRow("{id}.frame", UPRIGHT)),
    ),
    Kind(
        "panhard", ("lateral",), True, "panhard", "panhard bar", (_AXLE, _FRAME), (),
        (BodyRow("panhard", "panhard bar", "link", "panhard.axle", "panhard.frame"),), (HoldRow("panhard"),),
    ),
    Kind(
        "watts", ("lateral",), True, "watts", "Watts link",
        (
            PointRow("watts.pivot", ("pivot", "at"), "crank pivot", "@pivot.on"),
            PointRow("watts-left.{on}", ("left", "at"), "left rod end", "!pivot.on", "watts.left"),
            PointRow("watts-right.{on}", ("right", "at"), "right rod end", "!pivot.on", "watts.right"),
        ),
        (
            SwungRow("watts-left.{on}", "watts.pivot", 1, "@pivot.on"),
            SwungRow("watts-right.{on}", "watts.pivot", -1, "@pivot.on"),
        ),
        (
            BodyRow("watts-left", "left rod of the Watts link", "link", "watts-left.axle", "watts-left.frame"),
            BodyRow("watts-right", "right rod of the Watts link", "link", "watts-right.axle", "watts-right.frame"),
            BodyRow("watts", "bell crank", "crank", "watts-left.{on}", "watts-right.{on}"),
        ),
        (HoldRow("watts-left"), HoldRow("watts-right")),
    ),
    Kind(
        "slider", ("lateral",), True, "slider", "slider",
        (PointRow("slider.axle", ("axle", "at"), "axle point", "axle"),), (),
        (BodyRow("slider", "slider", "shoe", "slider.axle", "slider.axle"),), (HoldRow("slider.axle", SIDEWAYS),),
    ),
    _strut("shock", "shocks", 63.5, "shock"),
    _strut("stop", "stops", 60.0),
    _strut("strap", "straps", 40.0),
    Kind(
        "driveshaft", ("driveshaft",), False, "shaft", "driveshaft",
        (PointRow("shaft.case", ("case", "joint"), "joint at the case", "frame"),),
        (ElsewhereRow("shaft.pinion", ("axle", "pinion", "joint"), "axle"),),
        (BodyRow("shaft", "driveshaft", "strut", "shaft.pinion", "shaft.case", ("diameter",), 76.2),),
    ),
    Kind(
        "steering", ("steering",), False, "drag-link", "drag link",
        (
            PointRow("drag-link.frame", ("pitman",), "joint at the pitman arm", "frame"),
            PointRow("drag-link.axle", ("knuckle",), "joint at the knuckle", "axle"),
            PointRow("kingpin", ("kingpin", "at"), "point on the kingpin", "axle"),
            PointRow("tie-rod.one", ("tie_rod", 0), "first joint of the tie rod", "axle"),
            PointRow("tie-rod.other", ("tie_rod", 1), "second joint of the tie rod", "axle"),
        ), (),
        (
            BodyRow("drag-link", "drag link", "strut", "drag-link.axle", "drag-link.frame", ("diameter",), 31.75),
            BodyRow("tie-rod", "tie rod", "strut", "tie-rod.one", "tie-rod.other", ("diameter",), 31.75),
        ),
    ),
    Kind(
        "anti_roll", ("corners", "anti_roll"), False, "anti-roll", "anti-roll bar",
        (
            PointRow("anti-roll.pivot", ("pivot",), "pivot", "@on"),
            PointRow("anti-roll.arm", ("arm",), "arm end", "@on"),
            PointRow("anti-roll.link", ("link",), "link end", "!on"),
        ), (),
        (
            BodyRow("anti-roll", "anti-roll bar", "strut", "anti-roll.pivot", "anti-roll.arm", ("diameter",), 25.4),
            BodyRow("anti-roll-link", "anti-roll bar's link", "strut", "anti-roll.arm", "anti-roll.link", (), 19.0),
        ),
    ),
)  # fmt: skip


@dataclass(frozen=True)
class Spot:
    """A point of a design: its name (`upper-left.frame`), the part it belongs to, its place in the file, where it is
    (mm, chassis, at ride), the body that carries it, what kind of point it is (only like ones pair), and in words."""

    name: str
    part: str
    path: Path
    at: Point
    on: str
    kind: str
    words: str
    holds: bool
    """Whether its part constrains the axle: only such points are moved to cure a figure."""
    was: str | None = None


@dataclass(frozen=True)
class End:
    """An end of a body: its name, where it is at ride, and what it is taken from: one spot; two, for the point midway;
    or, where `hand` is not 0, the crank's pivot."""

    name: str
    at: Point
    on: str
    of: tuple[str, ...]
    hand: int = 0
    bolt: Direction | None = None
    """The axis of its bolt at ride, where the file gives one."""
    joint: str | None = None
    """Its entry of the joint catalog, where the file says one."""


@dataclass(frozen=True)
class Body:
    """What is drawn and named: its kind, words ("upper left link"), shape, ends and diameter, mm."""

    id: str
    kind: str
    words: str
    shape: Shape
    a: End
    b: End
    diameter: float


@dataclass(frozen=True)
class Hold:
    """A constraint by the name of its body; `axis` DISTANCE: between its ends, else a coordinate of `a` alone."""

    name: str
    axis: int
    a: End
    b: End


@dataclass(frozen=True)
class Parts:
    """Everything a design is made of, in the order of the file."""

    spots: tuple[Spot, ...]
    bodies: tuple[Body, ...]
    holds: tuple[Hold, ...]

    def spot(self, name: str) -> Spot:
        """A spot by its name, or by what it was called in older files.

        Raises:
            KeyError: for a name that no point has.
        """
        for spot in self.spots:
            if name in (spot.name, spot.was):
                return spot
        raise KeyError(name)


def words_of(name: str) -> str:
    """A name of the file as words: `upper-left` is "upper left"."""
    return name.replace("-", " ").replace("_", " ").strip()


def said(design: Design, name: str) -> str:
    """A body's name as words: "upper left link", "panhard bar", "left rod of the Watts link"."""
    return next((body.words for body in parts_of(design).bodies if body.id == name), words_of(name))


def part_said(design: Design, name: str) -> str:
    """Anything that has a name in words: a keep-out by the name it was given."""
    given = next((one.name for one in (design.room.keep_outs if design.room else ()) if one.id == name), None)
    return given or said(design, name)


@remembered(64)
def parts_of(design: Design) -> Parts:
    """A design read by the table."""
    spots: list[Spot] = []
    bodies: list[Body] = []
    holds: list[Hold] = []
    for kind, path, part in _each(design):
        _read(design, kind, path, part, spots, bodies, holds)
    return Parts(tuple(spots), tuple(bodies), tuple(holds))


def bars_of(parts: Parts) -> list[Body]:
    """The bodies that have a length of their own between two joints: links, arms, bars, rods."""
    return [body for body in parts.bodies if body.shape in ("link", "arm")]


_ASIDE_MM = 150.0
"""Farther than this from each other's mirror image, two parts of a kind are no pair."""


@remembered(64)
def across(design: Design) -> dict[str, str]:
    """By the name of each body that has one: the body on the other side that is its pair, the nearest to its mirror
    image among those of its kind, each to the other."""
    bodies = [body for body in parts_of(design).bodies if abs(_aside(body)) > _ASIDE_LEAST_MM]
    nearest: dict[str, str] = {}
    for body in bodies:
        others = [one for one in bodies if one.kind == body.kind and _aside(one) * _aside(body) < 0.0]
        near = min(others, key=lambda one: _mirrored(body, one), default=None)
        if near is not None and _mirrored(body, near) < _ASIDE_MM:
            nearest[body.id] = near.id
    return {one: other for one, other in nearest.items() if nearest.get(other) == one}


_ASIDE_LEAST_MM = 0.01


def _aside(body: Body) -> float:
    return body.a.at[1] + body.b.at[1]


def _mirrored(one: Body, other: Body) -> float:
    """How far the ends of one lie from the mirror images of the other's, in all, mm."""
    return sum(dist(a.at, (x, -y, z)) for a, b in ((one.a, other.a), (one.b, other.b)) for x, y, z in (b.at,))


def table() -> list[dict[str, Any]]:
    """The table as plain values."""
    return [asdict(kind) for kind in KINDS]


def _each(design: Design) -> Iterator[tuple[Kind, Path, Any]]:
    """Every part with its kind and place, in the order of the file within each list."""
    for where in dict.fromkeys(kind.where for kind in KINDS):
        here = [kind for kind in KINDS if kind.where == where]
        for path, part in _found(design, where):
            for kind in here:
                if not kind.tag or part.kind == kind.key:
                    yield kind, path, part


def _found(design: Design, where: Path) -> Iterator[tuple[Path, Any]]:
    value: Any = design
    for n, step in enumerate(where):
        if step == "*":
            yield from (((*where[:n], index), item) for index, item in enumerate(value))
            return
        value = getattr(value, str(step))
        if value is None:
            return
    yield where, value


def _read(
    design: Design, kind: Kind, path: Path, part: Any, spots: list[Spot], bodies: list[Body], holds: list[Hold]
) -> None:
    own = kind.id or part.id
    said = kind.words or words_of(own)
    ends: dict[str, End] = {}

    def named(template: str, on: str = "") -> str:
        return _named(template, own, on)

    for row in kind.points:
        on, at = _carrier(row.on, part), _at(part, row.path)
        if at is None:
            continue
        name = named(row.name, on)
        key = f"{kind.key}.{'.'.join(str(step) for step in row.path if step != 'at')}"
        spots.append(Spot(name, own, (*path, *row.path), at, on, key, row.words, bool(kind.holds), row.was))
        mount = _at(part, row.path[:-1])
        bolt, joint = getattr(mount, "bolt", None), getattr(mount, "joint", None)
        ends[name] = End(name, at, on, (name,), bolt=bolt, joint=joint)
    for derived in kind.derived:
        on = _carrier(derived.on, part)
        name = named(derived.name, on)
        if isinstance(derived, ElsewhereRow):
            ends[name] = End(name, _at(design, derived.at), on, (name,))
            continue
        ends[name] = _swung(name, on, derived, part, ends) if isinstance(derived, SwungRow) else _middle(
            name, on, [ends[named(of)] for of in derived.of]
        )  # fmt: skip
    crank = next((_carrier(derived.on, part) for derived in kind.derived if isinstance(derived, SwungRow)), "")
    for body in kind.bodies:
        if not {named(body.a, crank), named(body.b, crank)} <= set(ends):
            continue
        a, b = ends[named(body.a, crank)], ends[named(body.b, crank)]
        words = body.words.format(words=said).replace("link link", "link")
        bodies.append(Body(named(body.name), kind.key, words, body.shape, a, b, _size(part, body)))
    lengths = {body.id: body for body in bodies}
    for hold in kind.holds:
        of = named(hold.of)
        a, b = (lengths[of].a, lengths[of].b) if hold.axis == DISTANCE else (ends[of], ends[of])
        holds.append(Hold(of if hold.axis == DISTANCE else own, hold.axis, a, b))


@lru_cache(maxsize=1024)
def _named(template: str, own: str, on: str) -> str:
    return template.format(id=own, on=on)


def _swung(name: str, on: str, row: SwungRow, part: Any, ends: dict[str, End]) -> End:
    pivot = ends[row.about]
    return End(name, crank_end(pivot.at, part.arm, part.tilt, row.hand), on, (pivot.name,), row.hand)


def _middle(name: str, on: str, of: list[End]) -> End:
    x, y, z = ((one + other) / 2 for one, other in zip(of[0].at, of[1].at, strict=True))
    return End(name, (x, y, z), on, tuple(end.name for end in of))


_OTHER = {"axle": "frame", "frame": "axle"}


def _carrier(on: str, part: Any) -> str:
    if on[0] not in "@!":
        return on
    value = str(_at(part, tuple(on[1:].split("."))))
    return _OTHER[value] if on[0] == "!" else value


def _at(part: Any, path: Path) -> Any:
    """What stands there; None where something on the way is not given."""
    value = part
    for step in path:
        if value is None:
            return None
        value = value[step] if isinstance(step, int) else getattr(value, step)
    return value


def _size(part: Any, body: BodyRow) -> float:
    value = _sized(part, body.size) if body.size else None
    return body.standard if value is None else float(value)


def _sized(part: Any, path: Path) -> Any:
    value = part
    for step in path:
        value = getattr(value, str(step), None)
    return value
