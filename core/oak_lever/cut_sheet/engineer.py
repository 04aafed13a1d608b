"""The engineer's sheet: what the loads rest on, every case with its free body, every part's least factors, bolts, and
what was not looked at. Made for whoever has to sign, not in place of that."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import hypot
from textwrap import wrap
from typing import Literal

from oak_lever.design.links import TUBE_MM, WALL_MM
from oak_lever.design.materials import HOUSE_MATERIAL
from oak_lever.design.types import Design
from oak_lever.sheet.links import INSIDE, Titles, framed, table_pages
from oak_lever.sheet.page import CENTER, HIDDEN, MEDIUM, PAPERS, THIN, Mark, Paper, Ring, Words, Xy, line
from oak_lever.sheet.tables import Table
from oak_lever.strength.bolts import joint_bolts
from oak_lever.strength.bracketed import loaded_parts
from oak_lever.strength.cases import loads_of
from oak_lever.strength.judged import PartLoads, case_words
from oak_lever.strength.loads import Carried, Push, Reckoned, reckoned
from oak_lever.strength.on_frame import frame_prompts, landings
from oak_lever.units import Units, length, torque

_LB_N = 4.4482216
_FOOT, _HEAD, _GAP = 44.0, 9.0, 8.0
"""Of a page: what the title block takes; over a free body, its name; between its views, mm."""
_LONGEST, _TIP = 17.0, 2.0
"""The longest arrow of a case, and an arrow's head, mm on the page."""
_LEAST = 0.02
"""Forces below this part of a case's largest are not drawn: they are in the tables."""
_SIZE = 2.4
_LINE = 110
"""Letters in a line of running text."""
_NOT_LOOKED_AT = (
    "brackets that are not drawn, and what brackets and their welds stand on",
    "the frame's own strength where a force lands on it", "the housing and the axle tube",
    "wear and fatigue", "stops, straps, dampers and an anti-roll bar: here they carry nothing",
    "shock loads beyond these cases",
)  # fmt: skip


def engineers_sheet(design: Design, units: Units, titles: Titles, paper: Paper = "a4") -> list[list[Mark]]:
    """The marks of each page, within `PAPERS[paper]`. The same design gives the same marks.

    Raises:
        Refused: where the loads can't be reckoned.
    """
    found = reckoned(design)
    parts = loaded_parts(design, found)
    pages = [*table_pages(_tables(design, found, parts, titles, units), PAPERS[paper])]
    pages += [list(_body(design, one, PAPERS[paper], units)) for one in found.cases if one.pushes]
    for n, page in enumerate(pages, 1):
        page.extend(framed(design, units, titles, "Loads, not to scale", paper, (n, len(pages)), None))
    return pages


# tables


def _tables(
    design: Design, found: Reckoned, parts: Sequence[PartLoads], titles: Titles, units: Units
) -> list[Table]:  # fmt: skip
    made = [
        _rests(design, titles, parts, units), _cases(found, units), _factors(parts), _forces(found, parts, units),
        _bolts(design, found, units), _landings(design, found, units), _prompts(design, found),
        _open(parts),
    ]  # fmt: skip
    return [table for table in made if table.rows]


def _rests(design: Design, titles: Titles, parts: Sequence[PartLoads], units: Units) -> Table:
    loads = loads_of(design)
    said = design.loads.model_fields_set if design.loads else set()
    rows = [
        (words, f"{getattr(loads, key):g}", "said" if key in said else "house value, a guess")
        for key, words in (
            ("grip", "Grip fore-aft"), ("grip_side", "Grip sideways"), ("landing", "Landing, times the axle's weight"),
            ("strike", "Strike, times a wheel's weight"), ("rock", "On a rock, times a wheel's weight"),
        )
    ]  # fmt: skip
    if loads.torque is not None:
        rows.append(("Most torque at this axle", torque(loads.torque, units), "said"))
    if design.brackets:
        rows.append(
            (
                "Weld, of its plate's yield in shear",
                f"{loads.weld:g}",
                "said" if "weld" in said else "house value, a guess",
            )
        )
    tube = f"{length(TUBE_MM, units)} by {length(WALL_MM, units)}"
    guesses = (("its tube", "Tube", tube), ("its steel", "Steel", f"{HOUSE_MATERIAL.yield_:g} MPa"))
    rows += [
        (f"{what} of the {part.words}", value, "a guess")
        for part in parts for begin, what, value in guesses if any(one.startswith(begin) for one in part.guessed)
    ]  # fmt: skip
    rows += [(_capital(what), "", "a guess") for what in titles.guessed]
    return Table("What this rests on", ("Assumption", "value", "from"), tuple(rows), (0.0, 0.72, 1.0))


def _cases(found: Reckoned, units: Units) -> Table:
    rows = []
    for one in found.cases:
        case = one.case
        at = "ride" if not case.travel else length(case.travel, units)
        tires = [" ".join(_force(value, units) for value in side) for side in (case.left, case.right)]
        springs = (
            "nothing balances" if one.springs is None else " ".join(_force(v, units) for v in one.springs.values())
        )
        rows.append((_capital(case_words(case.id)), at, *tires, springs))
    heads = ("Case", "at", "left tire x y z", "right tire x y z", "springs l r")
    pulls = any(force < 0.0 for one in found.cases for force in (one.springs or {}).values())
    note = "Below 0 a spring would have to pull: a strap or a shock does, or nothing." if pulls else ""
    return Table(f"Load cases, {_unit(units)}", heads, tuple(rows), (0.0, 0.38, 0.6, 0.82, 1.0), note)


def _factors(parts: Sequence[PartLoads]) -> Table:
    rows = [
        (
            f"{_capital(part.words)}: {one.words}", f"{one.factor:.2f}", f"{one.wanted:g}", one.case_words,
            {"stop": "FAILS", "fix": "short"}.get(one.severity, "holds"),
        )
        for part in parts for one in part.factors if one.factor is not None
    ]  # fmt: skip
    heads = ("Part", "factor", "wanted", "in", "")
    return Table("Least factor of each part in all cases", heads, tuple(rows), (0.0, 0.6, 0.7, 0.92, 1.0))


def _most(force: tuple[float, str], units: Units) -> tuple[str, str]:
    return (_force(force[0], units), force[1]) if force[0] > 0.0 else ("-", "")


def _forces(found: Reckoned, parts: Sequence[PartLoads], units: Units) -> Table:
    """The most that each bar is pulled and pressed with, at whichever end."""
    names = {one.part: one.words for one in parts}
    most: dict[str, list[tuple[float, str]]] = {}
    for one in found.cases:
        for name, forces in (one.forces or {}).items():
            most.setdefault(name, []).extend(
                (forces[end], case_words(one.case.id)) for end in ("axle", "frame") if end in forces
            )
    rows = tuple(
        (_capital(names.get(name, name)), *_most(max(forces), units), *_most((-min(forces)[0], min(forces)[1]), units))
        for name, forces in most.items() if forces
    )  # fmt: skip
    heads = ("Bar", "most pull", "in", "most press", "in")
    return Table(f"Along each bar, {_unit(units)}", heads, rows, (0.0, 0.38, 0.6, 0.74, 1.0))


def _bolts(design: Design, found: Reckoned, units: Units) -> Table:
    rows = []
    for one in joint_bolts(design, found):
        if one.yield_stress is not None and one.diameter is not None:
            tight = "-" if one.torque is None else torque(one.torque, units)
            factor = f"{one.worst.factor:.2f}" if one.worst and one.worst.factor is not None else "-"
            size = f"{length(one.diameter, units)}, {one.yield_stress:g} MPa"
            rows.append((one.mount, size, factor, one.worst.case_words if one.worst else "", tight))
    heads = ("Bolt at", "diameter, yield", "factor", "in", "torque")
    return Table("Bolts", heads, tuple(rows), (0.0, 0.45, 0.56, 0.82, 1.0))


def _landings(design: Design, found: Reckoned, units: Units) -> Table:
    landed = landings(design, found)
    rows = []
    for one in landed:
        twist = "-" if one.twist is None else f"{torque(one.twist / 1000.0, units)}, {one.twist_case}"
        lever = "-" if one.lever is None else length(one.lever, units)
        parts = " ".join(_force(v, units) for v in one.along)
        rows.append((_capital(one.words), f"{_force(one.force, units)}, {one.case}", parts, lever, twist))
    heads = (f"On the frame, {_unit(units)}", "most, in", "forward left up", "lever", "twists the rail by, in")
    return Table("What lands on the frame", heads, tuple(rows), (0.0, 0.4, 0.57, 0.66, 1.0))


def _prompts(design: Design, found: Reckoned) -> Table:
    told = [one for words in frame_prompts(design, landings(design, found)) for one in wrap(words, _LINE)]
    return Table("The frame: for a person to judge", ("", ""), tuple((one, "") for one in told), (0.0, 1.0))


def _open(parts: Sequence[PartLoads]) -> Table:
    wanted = dict.fromkeys(
        f"{part.words}: {one.look_up}" for part in parts for one in part.factors if one.look_up is not None
    )
    rows = tuple((_capital(what), "to look up") for what in wanted)
    return Table(
        "Not looked at", ("What", ""), (*((_capital(what), "not in these sums") for what in _NOT_LOOKED_AT), *rows),
        (0.0, 1.0),
    )  # fmt: skip


# free bodies


@dataclass(frozen=True)
class _Seen:
    """A view of a free body: which two axes it has, whether the second runs down the page, and where its middle is."""

    name: str
    axes: tuple[int, int]
    down: float
    center: Xy
    middle: Xy
    scale: float

    def to(self, at: Sequence[float]) -> Xy:
        u, v = self.axes
        return (
            self.center[0] - self.scale * (at[u] - self.middle[0]),
            self.center[1] + self.down * self.scale * (at[v] - self.middle[1]),
        )

    def way(self, force: Sequence[float]) -> Xy:
        u, v = self.axes
        return (-force[u], self.down * force[v])


_VIEWS = (("From the left", (0, 2), -1.0), ("From above", (0, 1), 1.0), ("From behind", (1, 2), -1.0))
"""The front of the truck is to the left in the first two, its left in the last."""


def _body(design: Design, one: Carried, size: Xy, units: Units) -> Iterator[Mark]:
    """A case from the side, from above and from behind."""
    left, top, wide, high = INSIDE, INSIDE, size[0] - 2 * INSIDE, size[1] - 2 * INSIDE - _FOOT
    at = "ride" if not one.case.travel else f"{length(one.case.travel, units)} of travel"
    yield Words(f"{_capital(case_words(one.case.id))}, at {at}", (left, top + 4.0), 3.2, bold=True)
    legend = (
        f"On the axle and on the frame, {_unit(units)}; the axle's own weight is not drawn. A bar in dashes is pressed."
    )
    yield Words(legend, (left + wide, top + 4.0), _SIZE, "end")
    up = 2.0 * design.axle.tire_radius_loaded
    tops = [(x, y, z + up) for x, y, z in (push.at for push in one.pushes if push.part.startswith("tire-"))]
    points = [*(push.at for push in one.pushes), *tops]
    low, far = ([pick(at[k] for at in points) for k in range(3)] for pick in (min, max))
    most = max(hypot(*push.force) for push in one.pushes)
    if most <= 0.0:
        return
    spans = [max(f - lo, 1.0) for lo, f in zip(low, far, strict=True)]
    scale = min(
        (wide / 3 - _GAP - 2 * _LONGEST) / max(spans[0], spans[1]), (high - _HEAD - 2 * _LONGEST) / max(spans[1:])
    )  # fmt: skip
    middle = [(lo + f) / 2 for lo, f in zip(low, far, strict=True)]
    for n, (name, axes, down) in enumerate(_VIEWS):
        center = (left + wide * (2 * n + 1) / 6, top + _HEAD + (high - _HEAD) / 2)
        view = _Seen(name, axes, down, center, (middle[axes[0]], middle[axes[1]]), scale)
        yield Words(name, (center[0], top + _HEAD), _SIZE, "middle")
        yield from _axle(design, one, view)
        yield from _seen(one.pushes, view, most, units)


def _axle(design: Design, one: Carried, view: _Seen) -> Iterator[Mark]:
    """The line from wheel to wheel, and the tires as they stand on the ground."""
    radius = design.axle.tire_radius_loaded
    feet = [push.at for push in one.pushes if push.part.startswith("tire-")]
    centers = [(x, y, z + radius) for x, y, z in feet]
    yield line(*map(view.to, centers), width=THIN, dash=CENTER)
    for foot, (x, y, z) in zip(feet, centers, strict=True):
        if view.axes == (0, 2):
            yield Ring(view.to((x, y, z)), radius * view.scale, THIN)
        elif view.axes == (1, 2):
            yield line(view.to(foot), view.to((x, y, z + radius)), width=THIN)


def _seen(pushes: Sequence[Push], view: _Seen, most: float, units: Units) -> Iterator[Mark]:
    """Bars from joint to joint, dashed where they are pressed; every force as an arrow, its size at its tail."""
    ends: dict[str, list[Push]] = {}
    for push in pushes:
        ends.setdefault(push.part, []).append(push)
    pressed = set()
    for part, both in ends.items():
        if {push.on for push in both} == {"axle", "frame"} and len(both) == 2:
            a, b = both
            if sum(f * (p - q) for f, p, q in zip(a.force, a.at, b.at, strict=True)) > 0.0:
                pressed.add(part)
            yield line(view.to(a.at), view.to(b.at), width=MEDIUM, dash=HIDDEN if part in pressed else ())
    for push in pushes:
        yield Ring(view.to(push.at), 0.7, THIN, fill=1.0)
    per_newton = _LONGEST / most
    arrows = [
        _arrow(push, view, per_newton, push.part in pressed, units)
        for push in pushes if hypot(*push.force) >= _LEAST * most
    ]  # fmt: skip
    yield from dict.fromkeys(mark for arrow in arrows for mark in arrow)  # of two behind one another, one


def _arrow(push: Push, view: _Seen, per_newton: float, away: bool, units: Units) -> Iterator[Mark]:
    """To the point that it acts on, or `away` from it, so that it does not lie on its bar; as long as what of it this
    view shows: what points at the reader is not drawn. Its size stands at the end that is off the point."""
    across = view.way(push.force)
    flat = hypot(*across)
    long = per_newton * flat
    if long < _TIP:
        return
    at, (x, y) = view.to(push.at), (across[0] / flat, across[1] / flat)
    tip = (at[0] + x * long, at[1] + y * long) if away else at
    tail, neck = ((tip[0] - x * back, tip[1] - y * back) for back in (long, _TIP))
    half = _TIP * 0.3
    yield line(tail, tip, width=THIN)
    yield line((neck[0] - y * half, neck[1] + x * half), tip, (neck[0] + y * half, neck[1] - x * half), width=THIN)
    (far_x, far_y), (x, y) = (tip, (-x, -y)) if away else (tail, (x, y))
    anchor: Literal["start", "middle", "end"] = "end" if x > 0.3 else "start" if x < -0.3 else "middle"
    drop = 2.4 if y < -0.3 else -0.8 if y > 0.3 else 0.9
    yield Words(_force(hypot(*push.force), units), (far_x, far_y + drop), 2.0, anchor)


# words


def _force(newtons: float, units: Units) -> str:
    return f"{newtons / (1.0 if units == 'mm' else _LB_N) + 0.0:.0f}"


def _unit(units: Units) -> str:
    return "N" if units == "mm" else "lb"


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
