"""What a shop does about a finding on the parts that run with the axle beside moving them: another size, spring,
strap or spacer, a bump stop or a strap added, the pinion turned. Each is proposed as a design; whether it helps is
judged elsewhere."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from math import ceil, dist, floor
from typing import Any, Literal

import numpy as np

from oak_lever.cycle import Cycle
from oak_lever.design.added import STOP_MM, STRETCH
from oak_lever.design.faults import Refused
from oak_lever.design.parts import across, words_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.running_gear import Shock
from oak_lever.design.types import Design
from oak_lever.figures.sit import LB_IN, RATES_N_MM, TURN_MM, Sitting
from oak_lever.judge.check import Check
from oak_lever.judge.ladder import HARD, SOFT, Rungs, straight_ladder
from oak_lever.judge.parts import rung_said, shaft_slope, within
from oak_lever.move.remedies import Remedy
from oak_lever.move.turned import (
    SETTING_DEG,
    SOFT_DEG,
    Adjusted,
    Ways,
    adjusted,
    set_pinion,
    turned_housing,
)
from oak_lever.units import Units, length

Data = dict[str, Any]
Way = Literal["bump", "droop"]
_RESERVE_BUMP_MM, _RESERVE_DROOP_MM = 12.0, 6.0
_BEFORE_MM = 6.0
"""How far before what it guards a new stop is solid, or a new strap at its end."""
_MOST_PRELOAD_MM = 75.0


@dataclass(frozen=True)
class _Asked:
    cycled: Cycle
    check: Check
    step: float
    units: Units

    @property
    def design(self) -> Design:
        return self.cycled.design

    def changed(self, words: str, price: str, change: Callable[[Data], object]) -> Iterator[Remedy]:
        """The design changed as plain values; nothing where that makes no design, or `change` says False."""
        data = design_data(self.design)
        if change(data) is False:
            return
        try:
            yield Remedy(words, price, design_from(data))
        except (Refused, KeyError):
            return

    def priced(self, words: str, way: Way, change: Callable[[Data], object], more: str = "") -> Iterator[Remedy]:
        """The design changed, with what that does to the travel that way as its price; nothing where none is left."""
        for other in self.changed(words, "", change):
            first = _straight(other.design, way).first(*SOFT, *HARD)
            if first is not None and first.at <= 0.0:
                continue
            price = " ".join(filter(None, (_travel_price(self.design, other.design, way, self.units), more)))
            yield Remedy(words, price, other.design)

    def part(self, data: Data, listed: str) -> Iterator[Data]:
        """The part and its mirror image, in the file."""
        yield from (one for one in data["corners"].get(listed, []) if one["id"] in self.sides)

    @property
    def sides(self) -> set[str]:
        """The part and its pair on the other side."""
        return {self.check.part, across(self.design).get(self.check.part, self.check.part)}

    def said(self, mm: float) -> str:
        return length(mm, self.units)


def _straight(design: Design, way: Way) -> Rungs:
    return straight_ladder(design)[0 if way == "bump" else 1]


def _travel_price(before: Design, after: Design, way: Way, units: Units) -> str:
    """Where the straight travel ends that way, before and after, and by what."""
    was, now = (_straight(one, way) for one in (before, after))

    def end(rungs: Rungs, design: Design) -> str:
        first = rungs.first(*SOFT, *HARD)
        if first is None:
            return f"past {length(rungs.looked, units)}"
        return f"at {length(first.at, units)}, where {rung_said(design, first)}"

    said = f"{way.capitalize()} then ends {end(now, after)}; it ended {end(was, before)}."
    touches = [rungs.first("touches" if way == "bump" else "tight") for rungs in (was, now)]
    if touches[1] is None:
        return said

    def where(at: float) -> str:
        return f"at {length(at, units)}" if at > 0.0 else "already at ride"

    thing, word, before_it = ("stop", "touches", "touched") if way == "bump" else ("strap", "is tight", "was tight")
    had = "" if touches[0] is None else f", where it {before_it} {where(touches[0].at)}"
    return f"{said} The {thing} {word} {where(touches[1].at)}{had}."


def corner_remedies(cycled: Cycle, check: Check, increment_mm: float, units: Units) -> Iterator[Iterator[Remedy]]:
    """Everything that might help, in the order in which a shop would think of it: of each kind the mildest first."""
    asked = _Asked(cycled, check, increment_mm, units)
    for propose in _PROPOSALS.get(check.figure.id, ()):
        yield propose(asked)


# shocks and springs


def _other_shock(asked: _Asked) -> Iterator[Remedy]:
    """A shock as long as it is asked to be at both ends: with this one's length beside its stroke."""
    shock = _shock(asked)
    allowed = within(asked.cycled, asked.cycled.columns[f"shock {shock.id} length"])
    stroke = shock.extended - shock.compressed
    dead = shock.compressed - stroke
    longest = ceil((float(np.nanmax(allowed)) + _RESERVE_DROOP_MM) / asked.step) * asked.step
    shortest = floor((float(np.nanmin(allowed)) - _RESERVE_BUMP_MM) / asked.step) * asked.step
    if shortest < (longest - shortest) + dead:
        return  # no such shock is made: its body is longer than what is left closed

    def change(data: Data) -> None:
        for one in asked.part(data, "shocks"):
            one |= {"extended": longest, "compressed": shortest}
            if one.get("spring"):
                grown = longest - shock.extended
                one["spring"]["preload"] = max(one["spring"]["preload"] - grown, 0.0)

    yield from asked.changed(
        f"order a shock {asked.said(longest)} long open and {asked.said(shortest)} closed, "
        f"{asked.said(longest - shortest)} of stroke",
        "It is another shock, and the spring on it sits otherwise.", change,
    )  # fmt: skip


def _shock(asked: _Asked) -> Shock:
    assert asked.design.corners is not None
    return next(one for one in asked.design.corners.shocks if one.id == asked.check.part)


def _preloaded(asked: _Asked) -> Iterator[Remedy]:
    """The seats of every coil turned until it sits at ride: by halving, as far as there is thread."""
    settling = asked.design.corners.settling or 0.0 if asked.design.corners else 0.0
    names = _coils(asked.design)
    if not names:
        return

    def sits(by: float) -> float | None:
        return Sitting(_preload_by(asked.design, names, by)).travelled.settles_at()

    low, high = -_least_preload(asked.design), _MOST_PRELOAD_MM
    ends = [sits(by) for by in (low, high)]
    if ends[0] is None or ends[1] is None or not ends[1] <= -settling <= ends[0]:
        return
    for _ in range(14):
        middle = (low + high) / 2.0
        at = sits(middle)
        low, high = (middle, high) if at is None or at > -settling else (low, middle)
    by = round((low + high) / 2.0 * 2.0) / 2.0
    if abs(by) < 0.5:
        return
    way = "tighter" if by > 0 else "looser"
    yield Remedy(
        f"turn the spring seats {asked.said(abs(by))} {way}, {abs(by) / TURN_MM:.0f} turns of {TURN_MM:g} mm",
        "The shock's body must have that much thread.", _preload_by(asked.design, names, by),
    )  # fmt: skip


def _coils(design: Design) -> list[str]:
    return [one.id for one in design.corners.shocks if one.spring and one.sort == "coilover"] if design.corners else []


def _least_preload(design: Design) -> float:
    shocks = design.corners.shocks if design.corners else ()
    return min((one.spring.preload for one in shocks if one.spring and one.sort == "coilover"), default=0.0)


def _preload_by(design: Design, names: list[str], by: float) -> Design:
    data = design_data(design)
    for one in data["corners"]["shocks"]:
        if one["id"] in names:
            one["spring"]["preload"] = max(one["spring"]["preload"] + by, 0.0)
    return design_from(data)


def _other_spring(asked: _Asked) -> Iterator[Remedy]:
    """The step of rates nearest to what there is that carries it at ride, seated and clear of its coils, and rides
    within the band where there is one."""
    names = _coils(asked.design)
    if not names:
        return
    settling = asked.design.corners.settling or 0.0 if asked.design.corners else 0.0
    has, second = _rates(asked.design, names[0])
    use = [
        one for one in Sitting(asked.design).offered(names, -settling, RATES_N_MM)
        if not one.against and one.preload <= _MOST_PRELOAD_MM
    ]  # fmt: skip
    band = asked.check if asked.check.figure.id == "frequency" else None
    if band is not None:
        use = [
            one for one in use
            if (band.low is None or one.frequency >= band.low) and (band.high is None or one.frequency <= band.high)
        ]  # fmt: skip
    for one in sorted(use, key=lambda one: abs(one.rate - has))[:2]:
        preload = round(one.preload * 2.0) / 2.0

        def change(data: Data, rate: float = one.rate, preload: float = preload) -> None:
            for shock in data["corners"]["shocks"]:
                if shock["id"] in names:
                    shock["spring"] |= {"rate": rate, "preload": preload}

        over = "" if second is None else f" over the second of {second:.1f} N/mm ({second / LB_IN:.0f} lb/in)"
        yield from asked.changed(
            f"springs of {one.rate:.1f} N/mm ({one.rate / LB_IN:.0f} lb/in){over}, preloaded {asked.said(preload)}: "
            f"pressed {asked.said(one.at_ride)} at ride, {one.frequency:.1f} Hz",
            "Check that their own length leaves room for that.", change,
        )  # fmt: skip


def _rates(design: Design, name: str) -> tuple[float, float | None]:
    """A shock's spring's rate, and that of the second in its stack."""
    assert design.corners is not None
    spring = next(one.spring for one in design.corners.shocks if one.id == name)
    if spring is None:
        return 0.0, None
    return spring.rate, spring.second.rate if spring.second else None


def _aired(asked: _Asked) -> Iterator[Remedy]:
    """The pressure at which air springs carry it at ride."""
    shocks = asked.design.corners.shocks if asked.design.corners else ()
    if not any(one.air for one in shocks):
        return
    settling = asked.design.corners.settling or 0.0 if asked.design.corners else 0.0

    def at(pressure: float) -> Design:
        data = design_data(asked.design)
        for one in data["corners"]["shocks"]:
            if one.get("air"):
                one["air"]["pressure"] = pressure
        return design_from(data)

    low, high = 10.0, 1000.0
    ends = [_sits(at(p)) for p in (low, high)]
    for _ in range(16):
        middle = (low + high) / 2.0
        here = _sits(at(middle))
        if here is None:  # out of the travel: too little, or too much
            here = np.inf if _too_little(at(middle)) else -np.inf
        low, high = (middle, high) if here > -settling else (low, middle)
    pressure = 5.0 * round((low + high) / 10.0)
    if ends[1] is None or _sits(at(pressure)) is not None:
        yield Remedy(f"set the air springs to {pressure:.0f} kPa ({pressure / 6.894757:.0f} psi)", "", at(pressure))


def _sits(design: Design) -> float | None:
    return Sitting(design).travelled.settles_at()


def _too_little(design: Design) -> bool:
    """Whether the springs carry less than the weight at ride."""
    sitting = Sitting(design)
    return sum(float(sitting.lift(one, np.array([0.0]))[0]) for one in sitting.shocks) < sitting.weight(None)


def _longer_coil(asked: _Asked) -> Iterator[Remedy]:
    """A free coil so much longer that it stays seated."""
    short = asked.step * ceil((asked.check.short + 3.0) / asked.step)

    def change(data: Data) -> None:
        for one in asked.part(data, "shocks"):
            one["extended"] += short
            if one.get("spring"):
                one["spring"]["solid"] += short

    yield from asked.changed(
        f"order a spring {asked.said(short)} longer free", "With the same rate it sits the truck higher.", change
    )


# stops and straps


def _spacers(asked: _Asked) -> Iterator[Remedy]:
    """Spacers under the bump stops, so that they are solid before what comes before them; or the stop that never
    touches brought nearer."""
    design, check = asked.design, asked.check
    if design.corners is None or not design.corners.stops:
        return
    if check.figure.id == "stop_touches":
        need = (check.value or 0.0) + 2.0 * asked.step
    else:
        bump = straight_ladder(design)[0]
        hard, solid = bump.first(*HARD), bump.first("solid")
        if hard is None:
            return
        past = solid.at if solid else bump.looked
        need = past - hard.at + _BEFORE_MM
        if check.figure.id in ("stroke_bump", "coils") and need < check.short:
            need = check.short + _BEFORE_MM
    if need <= 0.0:
        return
    names = asked.sides if check.figure.of == "stop" else None
    for more in (1.0, 1.25, 1.6):
        spacer = asked.step * ceil(need * more / asked.step)

        def change(data: Data, spacer: float = spacer) -> None:
            for one in data["corners"]["stops"]:
                if names is None or one["id"] in names:
                    one["free"] += spacer
                    one["solid"] += spacer

        yield from asked.priced(
            f"put {asked.said(spacer)} of spacer under the bump stop{'s' if names is None else ''}", "bump", change
        )


def _stops_added(asked: _Asked) -> Iterator[Remedy]:
    """A bump stop over the tube on each side, solid just before what comes first; where there is none."""
    design = asked.design
    if design.corners is None or design.corners.stops:
        return
    bump = straight_ladder(design)[0]
    hard = bump.first(*HARD)
    at = min(hard.at - _BEFORE_MM if hard else bump.asked, bump.asked)
    free, solid = STOP_MM
    if at <= 0.0:
        return
    top = design.axle.tire_radius_loaded + design.axle.tube_diameter / 2.0
    across = _between_tires(design)

    def change(data: Data) -> None:
        data["corners"]["stops"] = [
            {
                "id": f"bump-{side}", "kind": "rubber", "free": free, "solid": solid,
                "frame": {"at": [0.0, hand * across, top + at + solid]},
                "axle": {"on": "axle", "at": [0.0, hand * across, top]},
            }
            for side, hand in (("left", 1.0), ("right", -1.0))
        ]  # fmt: skip

    yield from asked.priced(
        f"add a bump stop over the tube on each side, {asked.said(across)} from the centerline, "
        f"{asked.said(at + solid - free)} above its pad at ride",
        "bump", change, "It needs something on the frame there to stand against.",
    )  # fmt: skip


def _between_tires(design: Design) -> float:
    return round(0.62 * (design.axle.track - design.axle.tire_width) / 2.0)


def _shorter_strap(asked: _Asked) -> Iterator[Remedy]:
    """Straps cut so that they are at their end before what comes before them; or tight within the travel."""
    design, check = asked.design, asked.check
    if design.corners is None or not design.corners.straps:
        return
    if check.figure.id == "strap_holds":
        need = (check.value or 0.0) + 2.0 * asked.step
    elif check.figure.id == "strap_ride":
        need = -(check.short + asked.step)
    else:
        need = max(check.short if np.isfinite(check.short) else 0.0, asked.step)
    names = asked.sides if check.figure.of == "strap" else None
    for more in (1.0, 1.5, 2.0, 3.0):
        cut = asked.step * (ceil(need * more / asked.step) if need > 0 else floor(need * more / asked.step))
        lengths: dict[str, float] = {}

        def change(data: Data, cut: float = cut, lengths: dict[str, float] = lengths) -> bool:
            for one in data["corners"]["straps"]:
                if names is None or one["id"] in names:
                    one["length"] -= cut
                    lengths[one["id"]] = one["length"]
            return all(one > 0.0 for one in lengths.values())

        for other in asked.priced("", "droop", change):
            word = "shorter" if cut > 0 else "longer"
            yield Remedy(
                f"cut the straps {asked.said(abs(cut))} {word}: {_each_said(asked, lengths)} between bolt centers",
                other.price, other.design,
            )  # fmt: skip


def _each_said(asked: _Asked, lengths: Mapping[str, float]) -> str:
    """One length for all that are as long, or each with its name."""
    by_words = {name: asked.said(long) for name, long in lengths.items()}
    if len(set(by_words.values())) == 1:
        return next(iter(by_words.values()))
    return " and ".join(f"{words} ({words_of(name)})" for name, words in by_words.items())


def _straps_added(asked: _Asked) -> Iterator[Remedy]:
    """A strap ahead of the tube on each side, at its end just before what comes first; where there is none."""
    design = asked.design
    if design.corners is None or design.corners.straps:
        return
    droop = straight_ladder(design)[1]
    hard = droop.first(*HARD, "loose")
    at = min(hard.at - _BEFORE_MM if hard else droop.asked, droop.asked)
    if at <= 0.0:
        return
    radius = design.axle.tire_radius_loaded
    low, high = radius + design.axle.tube_diameter / 2.0, radius + design.axle.tube_diameter / 2.0 + 350.0
    across = _between_tires(design) - 60.0
    long = (high - low + at) / (1.0 + STRETCH)
    long = asked.step * floor(long / asked.step)

    def change(data: Data) -> None:
        data["corners"]["straps"] = [
            {
                "id": f"strap-{side}", "length": long, "stretch": STRETCH,
                "frame": {"at": [0.0, hand * across, high]},
                "axle": {"on": "axle", "at": [0.0, hand * across, low]},
            }
            for side, hand in (("left", 1.0), ("right", -1.0))
        ]  # fmt: skip

    yield from asked.priced(
        f"add a limit strap on each side, {asked.said(long)} between bolt centers, "
        f"{asked.said(across)} from the centerline, its upper bolt {asked.said(high)} off the floor",
        "droop", change, "Its stretch is taken as 8 percent, a guess: use the maker's figure.",
    )  # fmt: skip


# the shaft


def _turned_pinion(asked: _Asked, how: Ways) -> Iterator[Remedy]:
    """To what the shaft's kind asks for, and a little under it for what drive takes out of soft mounts."""
    try:
        aimed = set_pinion(asked.design, SOFT_DEG, how)
        by = round(aimed.axle.pinion.angle - asked.design.axle.pinion.angle, 1)
        turned = turned_housing(asked.design, by, how)
    except (Refused, ValueError):
        return
    if by:
        yield Remedy(_turn_said(by, how, turned), _turn_price(asked, turned, how), turned)


def _in_brackets(asked: _Asked) -> Iterator[Remedy]:
    return _turned_pinion(asked, "brackets")


def _on_links(asked: _Asked) -> Iterator[Remedy]:
    return _turned_pinion(asked, "links")


def _turn_said(by: float, how: Ways, turned: Design) -> str:
    what = "in its brackets" if how == "brackets" else "with its brackets, by the links' lengths"
    return (
        f"turn the housing {what} {abs(by):.1f} degrees, nose {'up' if by > 0 else 'down'}, to "
        f"{turned.axle.pinion.angle:.1f} degrees nose up"
    )


def _turn_price(asked: _Asked, turned: Design, how: Ways) -> str:
    moved = dist(turned.axle.pinion.joint, asked.design.axle.pinion.joint)
    said = [
        f"That is {SOFT_DEG:.1f} degrees under what the shaft asks for, as soft mounts let drive turn it up.",
        f"The pinion's joint goes {asked.said(moved)} with it.",
    ]
    if how == "brackets":
        said.append("Perches and brackets are cut loose and set anew, so that every mount stays where it is.")
    else:
        said += [_adjusted_said(one, asked.units) for one in adjusted(asked.design, turned)]
    caster, was = turned.axle.caster, asked.design.axle.caster
    if caster is not None and was is not None and abs(caster - was) >= SETTING_DEG:
        said.append(f"Caster goes from {was:.1f} to {caster:.1f} degrees.")
    return " ".join(said)


def _adjusted_said(one: Adjusted, units: Units) -> str:
    turns = "" if one.turns is None else f", {abs(one.turns):.1f} turns"
    word = "longer" if one.by > 0 else "shorter"
    return f"The {one.words} is set {length(abs(one.by), units)} {word}{turns}."


_SHIM_STEP_DEG = 0.5
_MOST_SHIM_DEG = 6.0


def _tipped_case(asked: _Asked) -> Iterator[Remedy]:
    """The transfer case tipped by shims, so that its output points where the pinion asks: for two joints parallel to
    it, else as near to along the shaft as a few degrees bring it."""
    shaft = asked.design.driveshaft
    assert shaft is not None
    if asked.check.figure.id == "case_angle" or shaft.kind != "two_joints":
        wanted = shaft_slope(asked.design)
    else:
        wanted = asked.design.axle.pinion.angle + SOFT_DEG
    by = _SHIM_STEP_DEG * round((wanted - shaft.case.angle) / _SHIM_STEP_DEG)
    if shaft.kind != "two_joints" and asked.check.figure.id != "case_angle":
        return  # the pinion of a double joint asks nothing of the output's angle
    amounts = dict.fromkeys(np.sign(by) * min(abs(by), most) for most in (1.0, 2.0, 3.0, _MOST_SHIM_DEG))
    for some in (float(one) for one in amounts if one):

        def tipped(data: Data, some: float = some) -> None:
            data["driveshaft"]["case"]["angle"] += some

        way, other = ("down", "up") if some > 0 else ("up", "down")  # one case has both outputs
        yield from asked.changed(
            f"shim the transfer case so that its output toward this axle tips {way} {abs(some):.1f} degrees, to "
            f"{shaft.case.angle + some:.1f} degrees down",
            f"Its joint is taken as staying where it is. Its other output tips {other} by as much: where that shaft "
            f"has a joint at each end, the other pinion then wants its nose {way} by as much.", tipped,
        )  # fmt: skip


def _other_slip(asked: _Asked) -> Iterator[Remedy]:
    """A slip with so much more travel that way, or a shaft cut so that it has."""
    shaft = asked.design.driveshaft
    assert shaft is not None
    short = asked.step * ceil((asked.check.short + asked.step) / asked.step)
    out = asked.check.figure.id == "slip_out"
    own, other = ("out", "in") if out else ("in", "out")
    has = shaft.slip.in_ if out else shaft.slip.out
    if has > short:

        def cut(data: Data) -> None:
            data["driveshaft"]["slip"][own] += short
            data["driveshaft"]["slip"][other] -= short

        yield from asked.changed(
            f"build the shaft {asked.said(short)} {'longer' if out else 'shorter'}, so that its slip has that "
            f"much more to {'be drawn out' if out else 'press in'}",
            "It takes that from the other way.", cut,
        )  # fmt: skip

    def longer(data: Data) -> None:
        data["driveshaft"]["slip"][own] += short

    yield from asked.changed(f"order a slip with {asked.said(short)} more travel", "", longer)


Proposer = Callable[[_Asked], Iterator[Remedy]]
_PROPOSALS: dict[str, tuple[Proposer, ...]] = {
    "stroke_bump": (_spacers, _stops_added, _other_shock),
    "stroke_droop": (_shorter_strap, _straps_added, _other_shock),
    "seated": (_shorter_strap, _straps_added, _longer_coil),
    "coils": (_spacers, _stops_added),
    "stop_touches": (_spacers,),
    "strap_holds": (_shorter_strap,),
    "strap_ride": (_shorter_strap,),
    "order_bump": (_spacers, _stops_added),
    "order_droop": (_shorter_strap, _straps_added),
    "sits": (_preloaded, _other_spring, _aired),
    "frequency": (_other_spring,),
    "pinion_set": (_in_brackets, _on_links, _tipped_case),
    "unsteady": (_in_brackets, _on_links, _tipped_case),
    "case_angle": (_tipped_case,),
    "pinion_angle": (_in_brackets, _on_links),
    "slip_out": (_other_slip,),
    "slip_in": (_other_slip,),
}
"""What might help against which figure."""
