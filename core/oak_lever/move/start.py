"""A design to start from that is sound for its use and school: drawn by proportions, then settled, then asked for less
travel, as far as it must be; what was guessed, and what was given up, is said in its notes.
"""

from typing import Any

from oak_lever.clear.clearances import gaps_of
from oak_lever.cycle import cycle
from oak_lever.design.reader import design_from
from oak_lever.design.start import Known, LayoutName, drawn_start
from oak_lever.design.types import Design, School, Use
from oak_lever.judge.judged import FIX, STOP, Judged, judge
from oak_lever.move.clearing import clearing
from oak_lever.move.coordinates import placed
from oak_lever.move.cures import cures
from oak_lever.move.near import MET
from oak_lever.move.settle import settle

_SETTLES = 4
_LESS = 0.85
"""By how much less is asked for at a time."""
_CUTS = 12
_PAIRS = 4
_LEAST_DEG = 1.5
_HALF_DEG = 0.5
_BY_TWIST = ("rear_steer", "front_steer", "bind", "fight", "joint_angle", "ends-short-together")
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
    design = _apart(_cured(design, increment_mm), increment_mm)
    return design.rewritten(notes=_notes(known, design, wanted))


def _settled(design: Design, increment_mm: float) -> Design:
    for _ in range(_SETTLES):
        if not _grave(judge(cycle(design).swept)):
            break
        settled = settle(design, increment_mm)
        if settled is None:
            break
        design = placed(design, settled.at)
    return design


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
            for gap in gaps_of(design)
            if gap.gap < gap.wanted - MET
            for cure in clearing(design, gap.a, gap.b, increment_mm)
            if cure.shifts
        )
        found = next((moved for moved in better if set(_grave(judge(cycle(moved).swept))) <= before), None)
        if found is None:
            break
        design = found
    return design


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


_BY_TRAVEL = {"pinion_change", "caster_change", "ends-short-droop", "ends-short-bump", "no-travel", *_BY_TWIST}


def _notes(known: Known, design: Design, wanted: Any) -> str:
    """What nobody measured, and what was given up."""
    axle, vehicle = design.axle, design.vehicle
    guessed = [f"mass of the truck {vehicle.mass:g} kg", f"share on the front axle {vehicle.front_share:g}"]
    if known.cg_height is None:
        guessed.append(f"height of the center of gravity {vehicle.cg_height:g} mm")
    if known.tire_radius_loaded is None:
        guessed.append(f"loaded tire radius {axle.tire_radius_loaded:g} mm")
    guessed += [
        f"tire width {axle.tire_width:g} mm", f"axle tube {axle.tube_diameter:g} mm",
        f"mass of the axle {axle.mass:g} kg",
        "the pinion, the rails' section, all joints",
    ]  # fmt: skip
    said = [f"Guessed, to be measured: {', '.join(guessed)}."]
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
    if cut:
        said.append(f"Less travel than is usual for this use, so that its figures hold: {', '.join(cut)}.")
    return " ".join(said)
