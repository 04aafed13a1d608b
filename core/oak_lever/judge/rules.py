"""Rules that bind, judged: never softened by a band, and said where they can't be read."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from math import dist, inf

from oak_lever.design.parts import parts_of
from oak_lever.design.rules import DistanceRule, FigureRule, HandRule, HeightRule, Limited, Rule
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID
from oak_lever.judge.check import CONSIDER, GOOD, ROUNDING, STOP, Check
from oak_lever.judge.places import NOWHERE, Place

_HELD, _PLACE, _UNREAD = BY_ID["rule"], BY_ID["rule_place"], BY_ID["rule_unread"]


def rule_checks(design: Design, checks: Sequence[Check]) -> Iterator[Check]:
    """Each rule on this axle, held against what it is about; `checks`: all else that is judged of the design."""
    for rule in design.rules or ():
        if rule.end in (None, design.axle.end):
            yield _check(design, rule, checks)


def _check(design: Design, rule: Rule, checks: Sequence[Check]) -> Check:
    if isinstance(rule, HandRule):
        told = "It was looked at, and holds." if rule.checked else "It is looked at by hand, and nobody has yet."
        return _unread(rule, GOOD if rule.checked else CONSIDER, told)
    found = list(_values(design, rule, checks))
    if not found:
        return _unread(rule, CONSIDER, "What it is about is not there on this axle, so nothing holds it.")
    value, place = max(found, key=lambda one: _beyond(rule, one[0]))
    broken = _beyond(rule, value) > ROUNDING
    side = 0 if not broken else -1 if rule.low is not None and value < rule.low else 1
    figure = replace(_HELD, unit=BY_ID[rule.figure].unit) if isinstance(rule, FigureRule) else _PLACE
    return Check(
        figure, rule.id, value, place, rule.low, rule.high, _written(rule), STOP if broken else GOOD, side,
        title=_title(rule), told="It binds, whatever else is wanted here." if broken else "",
    )  # fmt: skip


def _unread(rule: Rule, grave: int, told: str) -> Check:
    return Check(_UNREAD, rule.id, None, NOWHERE, None, None, _written(rule), grave, 0, title=_title(rule), told=told)


def _title(rule: Rule) -> str:
    return f"Rule: {rule.words}"


def _written(rule: Rule) -> str:
    return rule.written or "a rule of this truck"


def _beyond(rule: Limited, value: float) -> float:
    """How far past its limits, in its unit; below 0 inside them."""
    return max(value - (inf if rule.high is None else rule.high), (-inf if rule.low is None else rule.low) - value)


def _values(design: Design, rule: Limited, checks: Sequence[Check]) -> Iterator[tuple[float, Place]]:
    """What the rule is about, everywhere it is."""
    if isinstance(rule, FigureRule):
        yield from ((one.value, one.place) for one in checks if one.figure.id == rule.figure and one.value is not None)
        return
    at = {name: spot.at for spot in parts_of(design).spots for name in (spot.name, spot.was)}
    if isinstance(rule, HeightRule) and rule.of in at:
        yield at[rule.of][2], Place(0.0, 0.0, (rule.of,))
    if isinstance(rule, DistanceRule) and rule.from_ in at and rule.to in at:
        yield dist(at[rule.from_], at[rule.to]), Place(0.0, 0.0, (rule.from_, rule.to))
