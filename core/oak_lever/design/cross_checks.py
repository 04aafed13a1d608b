"""What must hold between the parts of a design, beyond what each part's own fields show."""

from collections.abc import Collection, Iterator, Sequence
from difflib import get_close_matches
from math import cos, hypot, radians
from typing import Any

from oak_lever.design.faults import Fault
from oak_lever.design.links import Bar, Link, Panhard, Slider, Watts, default_bolt
from oak_lever.design.parts import parts_of
from oak_lever.design.rules import FigureRule, Rule
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.tolerances import ROLLS_FREE_DEG

LATERAL_IDS = ("panhard", "watts-left", "watts-right")
FIXED_IDS = (*LATERAL_IDS, "axle", "axle-tube", "housing", "tire-left", "tire-right", "shaft", "drag-link", "tie-rod")
"""Names of the parts that the product names itself; no other part of a file with more than links may take them."""

BAR_IDS = ("anti-roll", "anti-roll-link")

UPRIGHT_DEG = 90.0

BANDED: set[str] = set()
"""The figures that `bands` may name. The register of figures, above this room, says them as it is loaded; none is
refused where it is not."""


def faults_between(design: Design, names: bool = True) -> list[Fault]:
    """Every fault that shows only between parts: names (unless they are known to be sound), what carries a shock's
    eye, bolts that a bent link turns on."""
    more = any((design.room, design.driveshaft, design.steering, design.corners))
    found = [*_names(design, more), *_unknown(design)] if names else []
    found += [*_carried(design), *_running(design)]
    if more and design.axle.track <= design.axle.tire_width:
        found.append(Fault("axle.track", "must be more than the tire's width"))
    return found


def _running(design: Design) -> Iterator[Fault]:
    """A shaft has a length, a steered axle's kingpins stand upright enough to steer about."""
    joint = design.axle.pinion.joint
    if design.driveshaft and max(abs(a - b) for a, b in zip(joint, design.driveshaft.case.joint, strict=True)) == 0.0:
        yield Fault("driveshaft.case.joint", "is where the pinion's joint is; set them apart")
    if design.steering and abs(design.axle.caster or 0.0) >= UPRIGHT_DEG:
        yield Fault("axle.caster", f"must lie between -{UPRIGHT_DEG:g} and {UPRIGHT_DEG:g} degrees with steering")


def _names(design: Design, more: bool) -> Iterator[Fault]:
    """One namespace: links, keep-outs, shocks, stops, straps, and the fixed parts; zones have their own."""
    taken: dict[str, str] = {}
    for path, name in _ids(design):
        if more and name in FIXED_IDS and name not in LATERAL_IDS:
            yield Fault(path, f'"{name}" is kept for a part of the axle; give this one another id')
        elif name in LATERAL_IDS and not path.startswith("links"):
            yield Fault(path, f'"{name}" is kept for the lateral locator; give this one another id')
        elif name in taken and not (path.startswith("links") and taken[name].startswith("links")):
            yield Fault(path, f'"{name}" is already the id of {taken[name]}; give each its own')
        taken.setdefault(name, path.rpartition(".")[0])
    bar = design.corners is not None and design.corners.anti_roll is not None
    for path, name in _ids(design):
        if bar and name in BAR_IDS:
            yield Fault(path, f'"{name}" is kept for the anti-roll bar; give this one another id')
    zones = [zone.id for zone in design.room.zones] if design.room else []
    for n, name in enumerate(zones):
        if name in zones[:n]:
            yield Fault(f"room.zones[{n}].id", f'"{name}" is already the id of room.zones[{zones.index(name)}]')


def _unknown(design: Design) -> Iterator[Fault]:
    """Locks and unpaired mounts that name nothing, bands of no figure: a slip of the pen, not a wish."""
    known = {name for spot in parts_of(design).spots for name in (spot.name, spot.was)}
    for name in design.locks or {}:
        if name not in known:
            yield Fault(f"locks.{name}", f"no mount is called that{_nearest(name, known)}")
    for n, name in enumerate(design.unpaired or ()):
        if name not in known:
            yield Fault(f"unpaired[{n}]", f'no mount is called "{name}"{_nearest(name, known)}')
    for name in design.bands or {}:
        if BANDED and name not in BANDED:
            yield Fault(f"bands.{name}", f"is not a figure that is judged{_nearest(name, BANDED)}")
    yield from rule_faults(design.rules or ())
    if isinstance(design.lateral, Slider | Watts):
        for n, link in enumerate(design.links):
            if link.id == design.lateral.kind:
                yield Fault(f"links[{n}].id", f'"{link.id}" is the lateral locator here; give the link another id')


def rule_faults(rules: Sequence[Rule]) -> Iterator[Fault]:
    """Of a design's or a truck's rules: ids twice, figures that are not judged."""
    for n, rule in enumerate(rules):
        if rule.id in {one.id for one in rules[:n]}:
            yield Fault(f"rules[{n}].id", f'"{rule.id}" is another rule\'s id already')
        if isinstance(rule, FigureRule) and BANDED and rule.figure not in BANDED:
            near = _nearest(rule.figure, BANDED)
            yield Fault(f"rules[{n}].figure", f'"{rule.figure}" is not a figure that is judged{near}')


def _nearest(name: str, known: Collection[str | None]) -> str:
    near = get_close_matches(name, [one for one in known if one], 1)
    return f"; did you mean {near[0]}" if near else ""


def _ids(design: Design) -> Iterator[tuple[str, str]]:
    lists: list[tuple[str, Any]] = [("links", design.links)]
    lists += [("room.keep_outs", design.room.keep_outs)] if design.room else []
    if design.corners:
        lists += [(f"corners.{name}", getattr(design.corners, name)) for name in ("shocks", "stops", "straps")]
    for where, items in lists:
        for n, item in enumerate(items):
            yield f"{where}[{n}].id", item.id


def _carried(design: Design) -> Iterator[Fault]:
    """A shock's eye rides on the axle or on a link that there is; a link that carries it has a bolt across itself."""
    bars: dict[str, tuple[str, Bar]] = {
        link.id: (f"links[{n}]", link) for n, link in enumerate(design.links) if isinstance(link, Link)
    }
    carry = {name for name, (_, link) in bars.items() if link.tube is not None and link.tube.bends}
    for path, item in _struts(design):
        on = item.axle.on
        if on != "axle" and on not in {link.id for link in design.links}:
            yield Fault(f"{path}.axle.on", f'must be "axle" or the id of a link, not "{on}"')
        carry.add(on)
    rolling: list[tuple[str, Bar]] = [one for name, one in bars.items() if name in carry]
    if isinstance(design.lateral, Panhard) and design.lateral.tube is not None and design.lateral.tube.bends:
        rolling.append(("lateral", design.lateral))
    for path, bar in rolling:
        if _along(bar.axle.at, bar.frame.at, bar.frame.bolt):
            yield Fault(
                path,
                f"is bent or carries something, and its frame bolt lies within {ROLLS_FREE_DEG:g} degrees of it: it "
                "could roll over freely; turn the bolt",
            )


def _struts(design: Design) -> Iterator[tuple[str, Any]]:
    if design.corners is None:
        return
    for name in ("shocks", "stops", "straps"):
        for n, item in enumerate(getattr(design.corners, name)):
            yield f"corners.{name}[{n}]", item


def _along(axle: Point, frame: Point, bolt: tuple[float, float, float] | None) -> bool:
    """Whether the frame bolt lies within a few degrees of the link's own line."""
    link = [a - f for a, f in zip(axle, frame, strict=True)]
    turn = bolt if bolt is not None else default_bolt(axle, frame)
    across = sum(a * b for a, b in zip(link, turn, strict=True)) / (hypot(*link) * hypot(*turn))
    return abs(across) > cos(radians(ROLLS_FREE_DEG))
