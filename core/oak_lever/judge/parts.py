"""What runs with the axle, judged: every figure of the register of these parts, where it is worst, against its band."""

from collections.abc import Iterator
from dataclasses import replace
from math import atan2, degrees, hypot, isfinite

import numpy as np

from oak_lever.cycle import Cycle
from oak_lever.design.joint_catalog import joint_kind
from oak_lever.design.parts import parts_of, words_of
from oak_lever.design.running_gear import Shock, Stop, Strap
from oak_lever.design.types import Design
from oak_lever.figures.corner_columns import Columns, corner_columns
from oak_lever.figures.register import PARTS, Figure, Limits, Of, Own, Read
from oak_lever.figures.running_gear import running_gear
from oak_lever.figures.sit import Sitting
from oak_lever.figures.struts import struts_of
from oak_lever.judge.check import FIX, GOOD, ROUNDING, SEVERITIES, STOP, WIDER, Check, band_of
from oak_lever.judge.house import DEFAULT_USE
from oak_lever.judge.ladder import HARD, Rung, Rungs, straight_ladder
from oak_lever.judge.places import Place
from oak_lever.motion.mechanism import Floats, Ints


def checks(cycled: Cycle) -> list[Check]:
    """Every figure of every part that runs with the axle, in the file's order; none of an axle that nothing holds."""
    if not cycled.located:
        return []
    return list(_Checks(cycled).run())


def check_of(cycled: Cycle, design: Design, check: Check, fresh: bool) -> Check | None:
    """A check anew, of a design of the same motion with other eyes, joints or sizes of what runs with it; `fresh`:
    which poses are allowed is found anew too. None where the design has no such part."""
    if fresh:
        cycled = replace(cycled, swept=replace(cycled.swept, design=design))
    moved = _Checks(cycled, design, check.part)
    of = check.figure.of
    if of in ("shock", "stop", "strap"):
        strut = next((one for one in struts_of(design) if one.id == check.part), None)
        found = moved.strut(check.figure, strut) if strut else iter(())
    elif of == "axle":
        every = moved.order() if check.figure.id.startswith("order") else moved.sit()
        found = (one for one in every if one.figure is check.figure)
    else:
        found = (one for one in moved.of(of) if one.figure is check.figure)
    return next(found, None)


class _Checks:
    def __init__(self, cycled: Cycle, design: Design | None = None, only: str | None = None) -> None:
        self.design = design or cycled.design
        self.columns = cycled.columns if design is None else _columns(cycled, design, only)
        swept = cycled.swept
        self.poses = swept.traced.poses
        places = swept.places
        everywhere = np.zeros(len(self.poses.travel_mm), dtype=np.bool_)
        everywhere[places.every] = True
        self.anywhere: Ints = np.flatnonzero(everywhere & swept.allowed[0])
        self.reached: Ints = np.flatnonzero(everywhere & swept.traced.reached[0])
        self.edges = swept.edges
        self.table_yaw = swept.column("yaw", np.arange(len(self.poses.travel_mm)))[0]
        self.straight = places.heave[swept.traced.reached[0, places.heave]]
        self.twist = places.articulation[swept.traced.reached[0, places.articulation]]

    def run(self) -> Iterator[Check]:
        for strut in struts_of(self.design):
            of: Of = "shock" if isinstance(strut, Shock) else "stop" if isinstance(strut, Stop) else "strap"
            for figure in _OF[of]:
                yield from self.strut(figure, strut)
        yield from self.rest()

    def rest(self) -> Iterator[Check]:
        """All but the struts'."""
        for of in ("bar", "axle", "shaft", "steering"):
            yield from self.of(of)

    def of(self, of: Of) -> Iterator[Check]:
        """Those of the bar, of the axle as a whole, of the shaft or of the steering, where the design has it."""
        corners = self.design.corners
        if of == "bar" and corners and corners.anti_roll:
            for figure in _OF["bar"]:
                yield from self._plain(figure, "anti-roll", _column(figure))
        elif of == "axle" and corners:
            yield from self.order()
            yield from self.sit()
        elif of == "shaft" and self.design.driveshaft:
            yield from self._shaft()
        elif of == "steering" and self.design.steering:
            for figure in _OF["steering"]:
                for check in self._plain(figure, "drag-link", _column(figure)):
                    yield replace(check, said=" ".join(filter(None, (check.said, self._road_sees(figure)))))

    # one figure

    def strut(self, figure: Figure, strut: Shock | Stop | Strap) -> Iterator[Check]:
        name = _column(figure, strut.id)
        if figure.id == "strap_side" and isinstance(strut, Strap):
            length = self.columns[f"strap {strut.id} length"]
            pose = int(self.anywhere[np.argmax(length[self.anywhere])])
            yield self._check(figure, strut.id, float(self.columns[name][pose]), self._place(pose, strut.id))
            return
        if name not in self.columns:
            return
        if isinstance(strut, Shock) and figure.id in _NOT_OF.get(strut.sort, ()):
            return
        if figure.id in ("eye_frame", "eye_axle") and isinstance(strut, Shock):
            yield from self._eye(figure, strut, name)
            return
        if figure.id == "over" and isinstance(strut, Shock):
            yield from self._over(figure, strut, name)
            return
        over = self.reached if figure.id in _OUT_OF_REACH else None
        unsaid = isinstance(strut, Strap) and strut.stretch == 0.0
        for check in self._plain(figure, strut.id, name, over):
            yield replace(check, guessed=_UNSTRETCHED) if unsaid else check

    def _eye(self, figure: Figure, shock: Shock, name: str) -> Iterator[Check]:
        end = "frame" if figure.id == "eye_frame" else "axle"
        entry = getattr(shock, end).joint
        low, high = band_of(self.design, figure)[0]
        guessed = ""
        if entry is not None:
            high = joint_kind(self.design, entry).limit - _reserve(figure)
        else:
            guessed = "No one has said what kind of eye this is: 12 degrees is a guess for a bushed one."
        for check in self._plain(figure, shock.id, name, limits=(low, high)):
            place = Place(check.place.travel, check.place.articulation, (f"{shock.id}.{end}",))
            yield replace(check, place=place, guessed=guessed)

    def _over(self, figure: Figure, shock: Shock, name: str) -> Iterator[Check]:
        """Only where the spring pushes does it roll the arm."""
        loaded = self.anywhere[self.columns[f"shock {shock.id} force"][self.anywhere] > 0.0]
        if len(loaded):
            yield from self._plain(figure, shock.id, name, loaded)

    def _plain(
        self, figure: Figure, part: str, name: str, over: Ints | None = None, limits: Limits | None = None
    ) -> Iterator[Check]:
        if name not in self.columns:
            return
        column, how = self.columns[name], _over(figure)
        if how in ("spread", "twist_spread"):
            yield from self._spread(figure, part, column)
            return
        poses = np.array([0]) if how == "ride" else self.anywhere if over is None else over
        known = poses[~np.isnan(column[poses])]
        if not len(known):
            return
        pick = np.argmax if how == "most" else np.argmin
        pose = int(known[pick(column[known])])
        value, place = float(column[pose]), self._place(pose, part)
        if how != "ride" and over is None:
            value, place = self._at_edges(column, value, place, 1.0 if how == "most" else -1.0)
        yield self._check(figure, part, value, place, limits)

    def _at_edges(self, column: Floats, value: float, place: Place, sign: float) -> tuple[float, Place]:
        """The worse of a value inside and what the column comes to where stops and straps first hold the axle,
        between the map's rows."""
        there = self.edges.values(column[None])[0]
        there = np.where(np.isnan(there), -sign * np.inf, there)
        if not len(there) or sign * there[n := int(np.argmax(sign * there))] <= sign * value:
            return value, place
        travel, twist = (
            float(self.edges.values(of[None])[0, n]) for of in (self.poses.travel_mm, self.poses.articulation_deg)
        )
        return float(there[n]), Place(travel, twist, place.parts)

    def _spread(self, figure: Figure, part: str, column: Floats) -> Iterator[Check]:
        poses = self.straight if _over(figure) == "spread" else self.twist
        if np.isnan(column[poses]).any():
            pose = int(poses[np.isnan(column[poses])][0])
            said = "Nothing keeps the knuckle from there on: the drag link runs out of length or over its dead point."
            yield replace(self._check(figure, part, None, self._place(pose, part)), grave=STOP, side=1, said=said)
            return
        far = int(poses[np.argmax(np.abs(column[poses]))])
        yield self._check(figure, part, float(np.ptp(column[poses])), self._place(far, part))

    def _road_sees(self, figure: Figure) -> str:
        """The knuckle turns against the axle, and the axle turns in plan: the road sees both together."""
        poses = self.straight if _over(figure) == "spread" else self.twist
        seen = self.columns[_column(figure)][poses] + self.table_yaw[poses]
        if np.isnan(seen).any():
            return ""
        return f"That is against the axle; with the axle's own turn in plan the road sees {np.ptp(seen):.1f} degrees."

    def _place(self, pose: int, part: str) -> Place:
        return Place(float(self.poses.travel_mm[pose]), float(self.poses.articulation_deg[pose]), (part,))

    def _check(
        self, figure: Figure, part: str, value: float | None, place: Place, limits: Limits | None = None
    ) -> Check:
        own, source = band_of(self.design, figure)
        low, high = own if limits is None else limits
        if figure.breaks is not None and (held := _held_to_stop(figure, low, high)) != (low, high):
            (low, high), source = held, WIDER
        if value is not None and not isfinite(value):
            value = None
        side = 0 if value is None else _side(value, low, high)
        grave = GOOD
        if side and figure.verdict:
            grave = SEVERITIES.index(figure.verdict.severity)
            if figure.breaks is not None and value is not None:
                past = value < figure.breaks - ROUNDING if side < 0 else value > figure.breaks + ROUNDING
                grave = STOP if past else grave
        return Check(figure, part, value, place, low, high, source, grave, side)

    # the axle's

    def order(self) -> Iterator[Check]:
        """What comes first in bump and in droop."""
        if self.design.corners is None:
            return
        for rungs in straight_ladder(self.design):
            yield from self._ordered(rungs)

    def _ordered(self, rungs: Rungs) -> Iterator[Check]:
        figure = _FIGURE[f"order_{rungs.way}"]
        sign = 1.0 if rungs.way == "bump" else -1.0
        hard = rungs.first(*HARD, *(("loose",) if rungs.way == "droop" else ()))
        soft = rungs.first("solid" if rungs.way == "bump" else "end")
        if hard is None:
            return
        holder = "bump stop" if rungs.way == "bump" else "limit strap"
        place = Place(sign * min(hard.at, rungs.asked), 0.0, (hard.part,) if hard.part else ())
        if soft is None:
            said = f"There is no {holder}: {rung_said(self.design, hard)} first."
            yield replace(
                self._check(figure, "axle", hard.at - rungs.looked, place), value=None, grave=FIX, side=-1, said=said
            )
            return
        check = self._check(figure, "axle", hard.at - soft.at, place)
        ended = "is solid" if rungs.way == "bump" else "is at its end"
        first = rung_said(self.design, hard)
        said = f"{first[:1].upper()}{first[1:]} before the {holder} {ended}."
        yield replace(check, said=said if check.side else "")

    def sit(self) -> Iterator[Check]:
        """Where the springs carry the truck, both sides alike, and how fast it rides on them."""
        if self.design.corners is None:
            return
        sitting = Sitting(self.design)
        if not sitting.shocks or sitting.weight(None) <= 0.0:
            return
        sits, settling = sitting.sits(), self.design.corners.settling
        names = tuple(shock.id for shock, _, _ in sitting.shocks)
        guessed = "" if settling is not None else (
            "Nobody has said how much it settles once body and load are on: taken as none."
        )  # fmt: skip
        if sits.travel is None:
            check = self._check(_FIGURE["sits"], "axle", None, Place(None, None, names))
            said = "The springs as given carry the truck nowhere in the travel that is asked for."
            yield replace(check, grave=FIX, side=-1, said=said, guessed=guessed)
            return
        yield replace(
            self._check(_FIGURE["sits"], "axle", sits.stands, Place(sits.travel, 0.0, names)), guessed=guessed
        )  # fmt: skip
        left, right = (one.alone for one in sits.corners)
        if left is not None and right is not None:
            yield self._check(_FIGURE["sides"], "axle", right - left, Place(sits.travel, 0.0, names))
        if sits.frequency is not None:
            yield self._check(_FIGURE["frequency"], "axle", sits.frequency, Place(sits.travel, 0.0, names))

    # the shaft

    def _shaft(self) -> Iterator[Check]:
        shaft = self.design.driveshaft
        assert shaft is not None
        slip = self.columns["shaft_slip"]
        for name, left in (("slip_out", shaft.slip.out - slip), ("slip_in", slip + shaft.slip.in_)):
            pose = int(self.anywhere[np.argmin(left[self.anywhere])])
            yield self._check(_FIGURE[name], "shaft", float(left[pose]), self._place(pose, "shaft"))
        for name, limit in (("case_angle", shaft.joint_limit.case), ("pinion_angle", shaft.joint_limit.pinion)):
            figure = _FIGURE[name]
            own, wider = (self.design.bands or {}).get(name), False
            if own is not None and (own[1] is None or own[1] > limit):
                own, wider = (own[0], limit), True
            for check in self._plain(figure, "shaft", _column(figure), limits=own or (None, limit - _reserve(figure))):
                past = check.value is not None and check.value > limit
                yield replace(check, grave=STOP if past else check.grave, source=WIDER if wider else check.source)
        off = self.design.axle.pinion.angle - wanted_pinion(self.design)
        yield self._check(_FIGURE["pinion_set"], "shaft", off, Place(0.0, 0.0, ("shaft",)))
        unsteady = self.columns["shaft_unsteady"][self.straight]
        if not np.isnan(unsteady).all():
            pose = int(self.straight[np.nanargmax(unsteady)])
            yield self._check(_FIGURE["unsteady"], "shaft", float(np.nanmax(unsteady)), self._place(pose, "shaft"))


def within(cycled: Cycle, values: Floats) -> Floats:
    """Values over all poses (P, ...) at those that stops and straps allow, and where these come to their ends between
    them."""
    edges = cycled.swept.edges
    there = edges.values(values[None])[0][~np.isnan(edges.part[0])]
    return np.concatenate([values[cycled.swept.allowed[0]], there])


def _columns(cycled: Cycle, design: Design, only: str | None) -> Columns:
    swept = cycled.swept
    if only in ("shaft", "drag-link"):
        return dict(running_gear(design, swept.mechanism, swept.traced, only=only).columns)
    return corner_columns(design, swept.mechanism, swept.traced, swept.places.heave, only)


def _column(figure: Figure, part: str = "") -> str:
    """The column of a part that a figure is read off."""
    assert isinstance(figure.how, Read | Own)
    return (figure.how.column or "").format(part=part)


def _over(figure: Figure) -> str:
    """Which of its column's values a figure is."""
    return figure.how.over if isinstance(figure.how, Read) else ""


def _reserve(figure: Figure) -> float:
    return (figure.verdict and figure.verdict.reserve) or 0.0


_FIGURE = {figure.id: figure for figure in PARTS}
_OF: dict[Of, list[Figure]] = {}
for _one in PARTS:
    _OF.setdefault(_one.of, []).append(_one)
_UNSTRETCHED = "No one has said how far it stretches: taken as not at all, where straps mostly stretch 5 to 10 percent."
_EYES = ("eye_frame", "eye_axle")
_NOT_OF = {"coilover": ("seated",), "coil": ("stroke_bump", "stroke_droop", *_EYES), "air": _EYES}
"""What a sort of shock has not: a coilover's spring is seated by its shock, a coil on seats has no stroke and no
eyes."""
_OUT_OF_REACH = ("stop_touches", "strap_holds")
"""What would be asked of a stop or strap within all of the travel, held by others or not."""


def _side(value: float, low: float | None, high: float | None) -> int:
    if low is not None and value < low - ROUNDING:
        return -1
    return 1 if high is not None and value > high + ROUNDING else 0


def _held_to_stop(figure: Figure, low: float | None, high: float | None) -> Limits:
    """A band brought to where a stop begins, on the side on which the house's has an end."""
    breaks, verdict = figure.breaks, figure.verdict
    assert breaks is not None
    assert verdict is not None
    if verdict.bands[DEFAULT_USE][0] is not None:
        return (breaks if low is None else max(low, breaks)), high
    return low, (breaks if high is None else min(high, breaks))


def wanted_pinion(design: Design) -> float:
    """The nose-up angle (degrees) at ride that the shaft's kind asks for: parallel to the case's output where there
    is a joint at each end, so that the two cancel; along the shaft, toward the case, where a double joint stands
    there."""
    shaft = design.driveshaft
    assert shaft is not None
    if shaft.kind == "two_joints":
        return shaft.case.angle
    return shaft_slope(design)


def shaft_slope(design: Design) -> float:
    """How far a design's driveshaft runs down from the case to the pinion at ride, degrees."""
    shaft = design.driveshaft
    assert shaft is not None
    x, y, z = (c - p for c, p in zip(shaft.case.joint, design.axle.pinion.joint, strict=True))
    return degrees(atan2(z, hypot(x, y)))


_EVENTS = {
    "shut": "a shock is fully pressed", "open": "a shock is fully drawn out", "coils": "a spring's coils touch",
    "loose": "a spring falls loose", "joint": "a joint comes to its limit",
    "links": "a link runs out of length or goes over center", "slip_out": "the driveshaft is pulled apart",
    "slip_in": "the driveshaft is pressed solid", "case_joint": "the shaft's joint at the case comes to its limit",
    "pinion_joint": "the shaft's joint at the pinion comes to its limit", "meets": "parts meet",
    "touches": "a bump stop touches", "solid": "a bump stop is solid", "tight": "a strap is tight",
    "end": "a strap is at its end",
}  # fmt: skip


def rung_said(design: Design, rung: Rung) -> str:
    """ "a shock is fully pressed (coilover left)"."""
    bodies = {one.id: one.words for one in parts_of(design).bodies}
    if rung.what == "joint":
        body, _, end = rung.part.rpartition(".")
        return f"{_EVENTS[rung.what]} ({bodies.get(body, words_of(body))}, {end} end)"
    if rung.what == "meets":
        return f"{_EVENTS[rung.what]} ({words_of(rung.part)} and {words_of(rung.other)})"
    named = rung.part and rung.part != "shaft"
    return f"{_EVENTS[rung.what]} ({words_of(rung.part)})" if named else _EVENTS[rung.what]
