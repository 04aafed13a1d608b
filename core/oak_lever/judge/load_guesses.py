"""How far off what a load rests on may be before the verdict on a part is another."""

from collections.abc import Iterator, Sequence
from functools import partial
from typing import Any

from oak_lever.design.loads import Loads
from oak_lever.design.materials import entry_of
from oak_lever.design.replaced import replaced
from oak_lever.design.types import Design
from oak_lever.judge.carried import FACTORS_OF, OF_BRACKET
from oak_lever.judge.check import SEVERITIES, Check
from oak_lever.judge.ranges import Input, Slack, slack_of
from oak_lever.strength.bracketed import bracket_loads
from oak_lever.strength.cases import loads_of
from oak_lever.strength.judged import ROCK, house_key, part_loads, tube_of, with_tube
from oak_lever.strength.loads import reckoned

_HOUSE = {
    "grip": Input("loads.grip", "grip fore-aft", "ratio", 0.5, 1.6),
    "grip_side": Input("loads.grip_side", "grip sideways", "ratio", 0.5, 1.6),
    "landing": Input("loads.landing", "landing, times the axle's weight", "ratio", 0.3, 2.0),
    "strike": Input("loads.strike", "strike, times a wheel's weight", "ratio", 0.3, 2.0),
    "rock": Input("loads.rock", "rock, times a wheel's weight", "ratio", 0.3, 2.0),
}
_TRUCK = (
    Input("vehicle.mass", "mass of the whole truck", "kg", 0.6, 1.6),
    Input("vehicle.front_share", "share of the mass on the front axle", "share", 0.6, 1.5, 1.0),
    Input("vehicle.cg_height", "height of the center of gravity", "mm", 0.6, 1.5),
)
_STEEL = Input("yield", "yield of its steel", "mpa", 0.5, 2.0)
_WELD = Input("loads.weld", "part of its plate's yield in shear that a weld holds", "share", 0.5, 1.5, 1.0)
_OF_STEEL = ("load_tube", "load_rock", *OF_BRACKET)
_ANSWERS = 1e-6


def load_slack(design: Design, check: Check, inputs: Sequence[str] | None) -> list[Slack]:
    """Of each input that a part's least factor answers to (all, or those whose paths are given): the range over which
    it stays as grave as it is, in whichever case."""
    grave, factor = _answer(design, check)
    found = []
    for one in _inputs(check):
        now = _value(design, check, one)
        if now is None or (inputs is not None and one.path not in inputs):
            continue
        if abs(_answer(_with(design, check, one, one.other(now)), check)[1] - factor) > _ANSWERS:
            found.append(slack_of(one, now, partial(_stays, design, check, one, grave)))
    return found


def _inputs(check: Check) -> Iterator[Input]:
    key = ROCK if check.figure.id == "load_rock" else house_key(check.place.case or "")
    if key is not None:
        yield _HOUSE[key]
    if check.figure.id in _OF_STEEL:
        yield _STEEL
    if check.figure.id == "load_weld":
        yield _WELD
    yield from _TRUCK


def _stays(design: Design, check: Check, one: Input, grave: int, value: float) -> bool:
    return _answer(_with(design, check, one, value), check)[0] == grave


def _answer(design: Design, check: Check) -> tuple[int, float]:
    """How grave the figure is of that part, and its least factor."""
    found = reckoned(design)
    parts = bracket_loads(design, found) if check.figure.id in OF_BRACKET else part_loads(design, found)
    whats = FACTORS_OF[check.figure.id]
    factors = [f for one in parts if one.part == check.part for f in one.factors if f.what in whats]
    known = [(SEVERITIES.index(one.severity), one.factor) for one in factors if one.factor is not None]
    return (max(grave for grave, _ in known), known[0][1]) if known else (0, 0.0)


def _value(design: Design, check: Check, one: Input) -> float | None:
    if one is _STEEL:
        own = check.figure.id in OF_BRACKET or check.part == "panhard" or check.part in {e.id for e in design.links}
        return entry_of(design, _material(design, check), check.part).yield_ if own else None
    group, name = one.path.split(".")
    return float(getattr(loads_of(design) if group == "loads" else getattr(design, group), name))


def _material(design: Design, check: Check) -> str | None:
    if check.figure.id in OF_BRACKET:
        return next((one.material for one in design.brackets or () if one.id == check.part), None)
    tube = tube_of(design, check.part)
    return tube.material if tube else None


def _with(design: Design, check: Check, one: Input, value: float) -> Design:
    if one is _STEEL:
        return _of_steel(design, check, value)
    group, name = one.path.split(".")
    if group == "loads":
        loads = (design.loads or Loads()).rewritten(**{name: value})
        return design.model_copy(update={"loads": loads})
    return replaced(design, {(group, name): value})


_TRIED = "the steel that is tried"


def _of_steel(design: Design, check: Check, value: float) -> Design:
    """The design with that part of a steel like its own, but for its yield."""
    steel = entry_of(design, _material(design, check), check.part).model_copy(update={"yield_": value})
    kept: dict[str, Any] = {"materials": {**(design.materials or {}), _TRIED: steel}}
    then = design.model_copy(update=kept)
    if check.figure.id not in OF_BRACKET:
        return with_tube(then, check.part, material=_TRIED)
    brackets = [one.rewritten(material=_TRIED) if one.id == check.part else one for one in design.brackets or ()]
    return then.model_copy(update={"brackets": tuple(brackets)})
