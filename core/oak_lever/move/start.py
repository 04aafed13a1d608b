"""A design to start from that is sound for its use and school: drawn by proportions, then settled, then asked for less
travel, as far as it must be; what was given up is said in its notes. The rails stand in the way.
"""

from typing import Any

import numpy as np

from oak_lever.clearance.clearances import gaps_of
from oak_lever.clearance.within import outside
from oak_lever.cycle import cycle
from oak_lever.design.parts import part_said, parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.room import MOVING_GAP_MM, Box
from oak_lever.design.start import Known, LayoutName, drawn_start
from oak_lever.design.types import Design, School, Use
from oak_lever.judge.check import CONSIDER, FIX, STOP
from oak_lever.judge.gaps import MET_MM
from oak_lever.judge.judged import NO_TRAVEL, SHORT, TOGETHER, Judged, judge
from oak_lever.judge.verdicts import verdicts_on
from oak_lever.move.clearing import clearing
from oak_lever.move.coordinates import placed
from oak_lever.move.cures import cures
from oak_lever.move.settle import settle

_SETTLES = 4
_LESS = 0.85
"""By how much less is asked for at a time."""
_CUTS = 12
_PAIRS = 4
_LEAST_DEG = 1.5
_HALF_DEG = 0.5
_BY_TWIST = ("rear_steer", "front_steer", "bind", "fight", "joint_angle", TOGETHER)
"""What hangs on articulation before it hangs on travel."""


def starting_design(
    name: str, layout: LayoutName, school: School, known: Known, use: Use = "trail", increment_mm: float = 1.0
) -> Design:
    """A design of that layout and school with no stop and no fix for that use, where there is one within reach of the
    proportions it is drawn by; its mounts on whole increments, clear of tube, housing and rails.

    Raises:
        Refused: when the measures are out of all proportion (a size not positive, two mounts at one point).
    """
    design = drawn_start(name, layout, school, known, use, increment_mm)
    wanted = design.travel
    design = _settled(design, increment_mm)
    for _ in range(_CUTS):
        grave = _grave(judge(cycle(design).swept))
        if not grave:
            break
        less = _less(design, grave, increment_mm)
        if less is None:
            break
        design = _settled(less, increment_mm)
    design = _through(_cured(design, increment_mm), increment_mm)
    design = _apart(_with_rails(design), increment_mm)
    strong, chosen = _strong(design, increment_mm)
    return strong.rewritten(notes=" ".join(filter(None, (_notes(strong, wanted), chosen))))


def _settled(design: Design, increment_mm: float) -> Design:
    for _ in range(_SETTLES):
        if not _grave(judge(cycle(design).swept)):
            break
        settled = settle(design, increment_mm)
        if settled is None:
            break
        design = placed(design, settled.at)
    return design


def _through(design: Design, increment_mm: float) -> Design:
    """Where findings are left: settled as if parts passed through each other, these then brought apart, and settled
    once more as they are; the design as it was where that does not end sound."""
    if not _grave(judge(cycle(design).swept)):
        return design
    settled = settle(design, increment_mm, passing=True)
    there = design if settled is None else placed(design, settled.at)
    for gap in gaps_of(there, spare_mm=0.0):
        if gap.gap <= 0.0:
            cure = next((one for one in clearing(there, gap.a, gap.b, increment_mm) if one.shifts), None)
            there = design_from(cure.document) if cure is not None else there
    there = _settled(there, increment_mm)
    sound = not _grave(judge(cycle(there).swept)) and all(gap.gap > 0.0 for gap in gaps_of(there, spare_mm=0.0))
    return there if sound else design


def _cured(design: Design, increment_mm: float) -> Design:
    """One cure after another, where each leaves fewer findings."""
    for _ in range(_SETTLES):
        before = _grave(judge(cycle(design).swept))
        better = (
            moved
            for name in before
            for cure in cures(design, name, increment_mm)
            if cure.shifts and len(_grave(judge(cycle(moved := placed(design, cure.at)).swept))) < len(before)
        )
        found = next(better, None)
        if found is None:
            break
        design = found
    return design


def _apart(design: Design, increment_mm: float) -> Design:
    """What comes too near moved apart, one after another, where that leaves no more to fix."""
    for _ in range(_PAIRS):
        before = set(_grave(judge(cycle(design).swept)))
        better = (
            design_from(cure.document)
            for gap in gaps_of(design, spare_mm=0.0)
            if gap.gap < gap.wanted - MET_MM
            for cure in clearing(design, gap.a, gap.b, increment_mm)
            if cure.shifts
        )
        found = next((moved for moved in better if set(_grave(judge(cycle(moved).swept))) <= before), None)
        if found is None:
            break
        design = found
    return design


def _strong(design: Design, increment_mm: float) -> tuple[Design, str]:
    """With other tubes where one would not carry every load case, and what was chosen, in words."""
    chosen = list[str]()
    for check, twin in verdicts_on(design).loads:
        cure = next((one for one in cures(design, check.id, increment_mm) if not one.shifts), None)
        if check.grave > CONSIDER and cure is not None:
            design = design_from(cure.document)
            chosen += [part_said(design, one.part) for one in (check, twin) if one]
    if not chosen:
        return design, ""
    return design, f"Tubes chosen as the lightest common ones that carry every load case: {', '.join(chosen)}."


def _grave(judged: Judged) -> list[str]:
    return [name for name, grave in judged.grave().items() if grave in (FIX, STOP)]


def _less(design: Design, grave: list[str], increment_mm: float) -> Design | None:
    """Less of what the first of the findings hangs on; None where that is little already, or it hangs on neither."""
    travel = design.travel
    if set(grave) & set(_BY_TWIST) and travel.articulation > _LEAST_DEG:
        less = max(_LEAST_DEG, _HALF_DEG * int(travel.articulation * _LESS / _HALF_DEG))
        return design.rewritten(travel=travel.rewritten(articulation=less))
    if set(grave) & _BY_TRAVEL and min(travel.bump, travel.droop) > 4.0 * increment_mm:
        cut = {key: increment_mm * int(getattr(travel, key) * _LESS / increment_mm) for key in ("bump", "droop")}
        return design.rewritten(travel=travel.rewritten(**cut))
    return None


_BY_TRAVEL = {"pinion_change", "caster_change", *SHORT[:2], NO_TRAVEL, *_BY_TWIST}


def _notes(design: Design, wanted: Any) -> str:
    """What was given up."""
    now = design.travel
    cut = [
        f"{word} {getattr(now, key):g} instead of {getattr(wanted, key):g} {unit}"
        for key, word, unit in (
            ("bump", "bump", "mm"),
            ("droop", "droop", "mm"),
            ("articulation", "articulation", "degrees"),
        )
        if getattr(now, key) < getattr(wanted, key)
    ]
    return f"Less travel than is usual for this use, so that its figures hold: {', '.join(cut)}." if cut else ""


_BOLTED_MM = 80.0
"""A frame mount nearer to a rail than this stands on a bracket of it: its link is not held against that rail."""
_BEYOND_AXLE_MM = 600.0


def _with_rails(design: Design) -> Design:
    """The rails in the way as they were typed: straight, from behind the rear axle to ahead of the front one, both
    axles' and every alternative's."""
    rails, base = design.rails, design.vehicle.wheelbase
    assert rails is not None
    ahead = base if design.axle.end == "rear" else 0.0
    keep_outs = []
    for side, hand in (("left", 1.0), ("right", -1.0)):
        center = [
            ahead - base / 2.0, hand * (rails.outside_width - rails.flange) / 2.0, rails.underside + rails.depth / 2.0
        ]  # fmt: skip
        size = [base + 2.0 * _BEYOND_AXLE_MM, rails.flange, rails.depth]
        solid = {"kind": "box", "center": center, "size": size}
        box = Box.model_validate(solid)
        bolted = sorted({
            spot.part for spot in parts_of(design).spots
            if spot.on == "frame" and float(outside(box, np.array([spot.at]))[0]) < _BOLTED_MM
        })  # fmt: skip
        keep_outs.append({
            "id": f"rail-{side}", "name": f"Frame rail, {side}", "on": "frame", "gap": MOVING_GAP_MM, "except": bolted,
            "solid": solid, "shared": True,
        })  # fmt: skip
    data = design_data(design)
    data["room"] = {**(data.get("room") or {}), "keep_outs": keep_outs}
    return design_from(data)
