"""What a school buys in this design: said from its own curves, and nothing that they do not bear out."""

from typing import Any

import numpy as np

from oak_lever.cycle import cycle
from oak_lever.design.faults import Refused
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.figures.register import BY_ID
from oak_lever.judge.judged import Judged, judge
from oak_lever.units import Units, length

_SAME_DEG = 0.1
"""Turns of the housing that differ by less are the same to any gauge."""
_EQUAL = 0.02
"""Uppers whose length is within this part of the lowers' are as long as they are."""


def school_says(design: Design, units: Units = "mm") -> str:
    """One or two sentences on the design's school; nothing where there is none, or where its figures do not exist."""
    judged = judge(cycle(design).swept)
    say = _SAY.get(design.school or "numbers_first")
    return say(design, judged, units) if say is not None and not judged.grave().get("loose") else ""


def _turn(judged: Judged) -> tuple[str, float] | None:
    """What the axle's housing turns by over the whole travel, and what that is called at its end of the truck."""
    for name in ("pinion_change", "caster_change"):
        if name in judged.figures:
            value = float(judged.value[judged.figures.index(name), 0])
            return (BY_ID[name].name.lower(), value) if np.isfinite(value) else None
    return None


def _held(design: Design, judged: Judged, units: Units) -> str:
    turn = _turn(judged)
    return f"Here: {turn[0]} {turn[1]:.1f} degrees over the whole travel." if turn else ""


def _short(design: Design, judged: Judged, units: Units) -> str:
    """Against the same links with uppers as long as the lowers, on the same lines."""
    turn, other = _turn(judged), _with_equal_uppers(design)
    if turn is None or other is None:
        return ""
    same = _turn(judge(cycle(other).swept))
    if same is None:
        return ""
    here = f"Here: {turn[0]} {turn[1]:.1f} degrees; with uppers as long as the lowers on the same lines, {same[1]:.1f}."
    if abs(same[1] - turn[1]) < _SAME_DEG:
        return f"{here} Their length makes no difference to it that a gauge would show."
    return f"{here} The short uppers turn the housing {'less' if turn[1] < same[1] else 'more'}."


def _with_equal_uppers(design: Design) -> Design | None:
    """The uppers' frame ends moved along their own lines until each is as long as the mean lower; None where there are
    not both, or they are as long already, or it makes no design."""
    data = design_data(design)
    links: list[Any] = [link for link in data["links"] if link["kind"] in ("lower", "upper")]
    long = {n: np.subtract(link["frame"]["at"], link["axle"]["at"]) for n, link in enumerate(links)}
    lowers = [float(np.linalg.norm(long[n])) for n, link in enumerate(links) if link["kind"] == "lower"]
    uppers = [n for n, link in enumerate(links) if link["kind"] == "upper"]
    if not lowers or not uppers:
        return None
    goal = float(np.mean(lowers))
    if all(abs(float(np.linalg.norm(long[n])) / goal - 1.0) < _EQUAL for n in uppers):
        return None
    for n in uppers:
        axle, span = np.array(links[n]["axle"]["at"]), long[n]
        links[n]["frame"]["at"] = [float(v) for v in axle + span * goal / float(np.linalg.norm(span))]
    try:
        return design_from(data)
    except Refused:
        return None


def _converging(design: Design, judged: Judged, units: Units) -> str:
    row = {name: judged.swept.column(name, judged.swept.places.ride)[0, 0] for name in ("ic_x", "ic_height")}
    if not np.isfinite(list(row.values())).all():
        return "Here the links meet in no point: they are parallel seen from the side."
    way = "ahead of" if row["ic_x"] > 0 else "behind"
    return (
        f"Here they meet {length(abs(float(row['ic_x'])), units)} {way} the axle, "
        f"{length(float(row['ic_height']), units)} off the ground."
    )


def _flat(design: Design, judged: Judged, units: Units) -> str:
    value = judged.values()
    steep, swing = value.get("lower_angle"), value.get("swing")
    if steep is None or swing is None:
        return ""
    return (
        f"Here the steepest lower lies at {steep:.1f} degrees at ride, and between full droop and full bump no upper "
        f"or lower turns by more than {swing:.1f}."
    )


def _window(design: Design, judged: Judged, units: Units) -> str:
    value = judged.values()
    squat, far = value.get("anti_squat"), value.get("ic_length")
    if squat is None or far is None:
        return ""
    return f"Here: anti-squat {squat:.0f} %, instant center {length(far, units)} from the axle."


_SAY = {
    "hold_pinion": _held,
    "short_upper": _short,
    "converge_on_a_point": _converging,
    "flat_and_long": _flat,
    "window": _window,
}
