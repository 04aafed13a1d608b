"""Load factors as findings: which, how grave, in which case; and what is offered against them. Worked out anew from the
forces of the cases."""

import json
from functools import partial
from math import hypot, pi
from typing import Any

import pytest
from designs import DEMO, changed, run
from random_designs import random_designs

from oak_lever.api import (
    Cure,
    Design,
    Finding,
    cures,
    design_data,
    design_from,
    findings_on,
    loads_said,
    placed,
    read_design,
    reckoned,
    settle,
    slack,
)
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.design.parts import across, parts_of
from oak_lever.strength.bolts import GRADES
from oak_lever.strength.loads import Carried

TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())
SHEAR = 0.577


def weak(data: Any) -> None:
    """Thin tubes, small bolts in single shear, and a rating for every joint."""
    data["joints"] = {"small": {"limit": 28.0, "give": 0.0, "rating": 30_000.0}}
    for link in data["links"]:
        if link["kind"] == "radius_arm":
            continue
        link["tube"] = {"diameter": 38.1, "wall": 3.05}
        for end in ("axle", "frame"):
            link[end]["joint"] = "small"
            link[end]["fastener"] = {"diameter": 9.525, "yield": 634.0, "planes": 1}


WEAK = changed(TENDER, weak)
SOME = [WEAK, *(changed(one, weak) for one in random_designs(seed=36, many=6))]


def on_loads(design: Design) -> list[Finding]:
    return [one for one in findings_on(design) if one.figure.startswith("load_")]


def wanted_in(one: Carried) -> float:
    return 1.25 if one.case.abuse else 2.0


def least_of(design: Design, part: str, factor: Any) -> tuple[bool, float, float, str]:
    """Of all cases one that breaks it, or else the least of factor over wanted: whether it holds, that part, the factor
    itself and the case; `factor` of a case."""
    every = [
        (value >= 1.0, value / wanted_in(one), value, one.case.id)
        for one in reckoned(design).cases if one.forces is not None and (value := factor(one)) is not None
    ]  # fmt: skip
    return min(every)


def mount_of(design: Design, part: str, end: str) -> Any:
    return getattr(next(link for link in design.links if link.id == part), end)


def shear(design: Design, part: str, end: str) -> Any:
    """The bolt's factor in a case, from the force at that end."""
    bolt = mount_of(design, part, end).fastener
    holds = SHEAR * bolt.yield_ * bolt.planes * pi * bolt.diameter**2 / 4.0
    return lambda one: holds / one.forces[part][f"at_{end}"]


@pytest.mark.parametrize("design", SOME, ids=range(len(SOME)))
def test_bolts_and_joints_are_found_by_the_forces_on_them(design: Design) -> None:
    found = {(one.figure, part): one for one in on_loads(design) for part in one.parts}
    for link in design.links:
        if link.kind == "radius_arm":
            continue
        for figure, of in (
            ("load_bolt", lambda end, part=link.id: shear(design, part, end)),
            ("load_joint", lambda end, part=link.id: lambda one: 30_000.0 / one.forces[part][f"at_{end}"]),
        ):
            _, share, value, case = min(least_of(design, link.id, of(end)) for end in ("axle", "frame"))
            mine = found.get((figure, link.id))
            if share >= 1.0:
                assert mine is None
                continue
            assert mine is not None, (figure, link.id, share)
            assert mine.value == pytest.approx(value, rel=1e-3)
            assert mine.value is not None
            assert mine.severity == ("stop" if mine.value < 1.0 else "fix")
            assert mine.place.case is not None
            if len(mine.parts) == 1:
                assert mine.place.case == case
            if figure == "load_joint":
                (fact,) = mine.facts
                assert fact.value == pytest.approx(30_000.0 * mine.low / mine.value, rel=1e-6)  # type: ignore[operator]


def test_what_breaks_in_one_case_is_a_stop_though_another_is_farther_from_what_is_wanted() -> None:
    """A landing that brings the bolt to 0.97 of its end wants 1.25 (78 %); the launch at 1.4 wants 2 (70 %)."""
    carried = {one.case.id: one.forces["lower-left"]["at_frame"] for one in reckoned(TENDER).cases if one.forces}
    launch = carried["launch"]
    reached = 1.4 * launch / 0.97

    def bolted(data: Any) -> None:
        lower = next(link for link in data["links"] if link["id"] == "lower-left")
        holds = 1.4 * launch
        lower["frame"]["fastener"] = {"diameter": 12.7, "yield": holds / (SHEAR * 2.0 * pi * 12.7**2 / 4.0)}
        more = reached / carried["strike_left"] * 2.0
        data["loads"] = {"strike": more}

    (found,) = [one for one in on_loads(changed(TENDER, bolted)) if one.figure == "load_bolt"]
    assert found.severity == "stop"
    assert found.place.case in ("strike_left", "strike_right")
    assert found.value is not None
    assert found.value < 1.0


def test_there_is_enough_to_find() -> None:
    figures = {one.figure for design in SOME for one in on_loads(design)}
    assert {"load_tube", "load_rock", "load_joint", "load_bolt"} <= figures


def test_a_rock_is_found_by_a_beam_on_two_supports() -> None:
    """A tube of 38.1 by 3.05 mm under half the axle's weight at mid length."""
    (found,) = [one for one in on_loads(WEAK) if one.figure == "load_rock"]
    vehicle = TENDER.vehicle
    half = vehicle.mass * 9.80665 * (1.0 - vehicle.front_share) / 2.0
    part = found.parts[0]
    ends = [mount_of(WEAK, part, end).at for end in ("axle", "frame")]
    long = hypot(*(a - b for a, b in zip(*ends, strict=True)))
    section = pi / 32.0 * (38.1**4 - 32.0**4) / 38.1
    assert found.value == pytest.approx(350.0 * section / (half * long / 4.0), rel=1e-6)
    assert (found.severity, found.low, found.place.case) == ("stop", 1.25, "rock")
    assert "its mirror image" in found.title
    assert "steel is guessed" in found.guessed
    assert "a rock takes 1 times" in found.guessed
    said = changed(WEAK, lambda data: data.update(loads={"rock": 1.0}))
    (again,) = [one for one in on_loads(said) if one.figure == "load_rock"]
    assert "rock" not in again.guessed


def test_what_nobody_has_said_is_one_thing_to_look_up() -> None:
    thin, found = on_loads(TENDER)
    assert thin.figure == "load_rock"
    assert (found.figure, found.severity, found.value) == ("load_unknown", "consider", None)
    assert "8 joints are rated for" in found.message
    assert "8 bolts are" in found.message
    assert cures(TENDER, found.id, 1.0) == []
    rated = [one for one in on_loads(WEAK) if one.figure == "load_unknown"]
    assert rated == []


def test_a_radius_arm_is_not_asked_for_bolts_that_it_can_not_say() -> None:
    arms = layout("radius arms and panhard")
    (found,) = [one for one in on_loads(arms) if one.figure == "load_unknown"]
    assert "4 joints are" in found.message  # each arm's eye, and the panhard bar's two ends


def test_loads_that_can_not_be_worked_out_are_said_to_be_missing() -> None:
    twice = changed(TENDER, lambda data: data.update(loads={"cases": [
        {"id": "static", "left": [0, 0, 1], "right": [0, 0, 1]}]}))  # fmt: skip
    (found,) = on_loads(twice)
    assert found.figure == "load_unknown"
    assert "is a case already" in found.message
    far = changed(TENDER, lambda data: data.update(loads={"cases": [
        {"id": "hook", "travel": 5000.0, "left": [0, 0, 1], "right": [0, 0, 1]}]}))  # fmt: skip
    assert any("nothing balances the case hook" in one.message for one in on_loads(far))


# what is offered


def offered(design: Design) -> list[tuple[Finding, Cure]]:
    return [
        (one, cure) for one in on_loads(design) if one.figure != "load_unknown"
        for cure in cures(design, one.id, 5.0)
    ]  # fmt: skip


@pytest.mark.parametrize("design", SOME[:4], ids=range(len(SOME[:4])))
def test_a_cure_leaves_no_case_short(design: Design) -> None:
    kinds = set()
    for finding, cure in offered(design):
        then = design_from(cure.document)
        part = finding.parts[0]
        assert cure.meets
        left = {one.id for one in on_loads(then)}
        assert finding.id not in left
        whats = {"load_tube": ("yield", "buckling"), "load_bolt": ("bolt_axle", "bolt_frame"),
                 "load_joint": ("joint_axle", "joint_frame"), "load_rock": ()}[finding.figure]  # fmt: skip
        for one in reckoned(then).cases:
            for what in whats:
                value = one.strength[part][what] if one.strength else None
                assert value is None or value >= wanted_in(one) - 1e-9, (cure.words, what, one.case.id)
        if finding.figure == "load_rock":
            assert reckoned(then).rock[part]["yield"] >= 1.25
        was = {one.id for one in findings_on(design) if one.severity == "stop"}
        new = {one.id for one in findings_on(then) if one.severity == "stop"} - was
        assert not new
        kinds |= said_so(finding, cure, design, then)
    assert {"tube", "sides", "size"} <= kinds
    assert design is not WEAK or "grade" in kinds


def said_so(finding: Finding, cure: Cure, design: Design, then: Design) -> set[str]:
    """The kind of cure, whose words are held against the two designs."""
    part, words = finding.parts[0], cure.words
    before, after = (next(link for link in d.links if link.id == part) for d in (design, then))
    if finding.figure in ("load_tube", "load_rock") and "wall" in words:
        assert f"of {after.tube.diameter:g} mm by {after.tube.wall:g} mm wall" in words  # type: ignore[union-attr]
        return {"tube"}
    if "bolt" not in words.lower():
        assert cure.shifts or "straight" in words
        return {"moved"}
    ends = [end for end in ("axle", "frame") if getattr(before, end) != getattr(after, end)]
    assert ends
    for end in ends:
        was, now = getattr(before, end).fastener, getattr(after, end).fastener
        if "grade" in words.lower():
            grade = next(one for one in GRADES if one.yield_stress == now.yield_)
            assert grade.words.partition(" (")[0].lower() in words.lower()
            assert (grade.inch, now.diameter, now.planes) == (True, was.diameter, was.planes)
        elif "both sides" in words:
            assert (was.planes, now.planes, now.diameter) == (1, 2, was.diameter)
        else:
            assert inches(words) == pytest.approx(now.diameter / 25.4)
            assert (now.yield_, now.planes) == (was.yield_, was.planes)
    return {"grade" if "grade" in words.lower() else "sides" if "both sides" in words else "size"}


def inches(words: str) -> float:
    """ "of 7/16 in" as a number."""
    text = words.rpartition("of ")[2].removesuffix(" in")
    parts = [one.split("/") for one in text.split()]
    return sum(float(one[0]) / (float(one[1]) if len(one) == 2 else 1.0) for one in parts)


def test_moving_several_breaks_nothing_and_says_what_then_carries_more() -> None:
    """With bolts and joints that just do in the design as it stands, so that a move can be too much for one."""
    moved = said = 0
    for design in random_designs(seed=136):
        most = max(
            one.forces[link.id][f"at_{end}"] * wanted_in(one) for one in reckoned(design).cases if one.forces
             for link in design.links if link.id in one.forces for end in ("axle", "frame")
             if f"at_{end}" in one.forces[link.id]
        )  # fmt: skip
        tight = changed(changed(design, weak), partial(rated, most * 1.001))
        settled = settle(tight, 2.0)
        if settled is None:
            continue
        moved += 1
        then = placed(tight, settled.at)
        was = {name for one in on_loads(tight) for name in [one.figure + part for part in one.parts]}
        new = [one for one in on_loads(then) if not {one.figure + part for part in one.parts} & was]
        assert all(one.severity != "stop" for one in new)
        assert {one.title for one in new if one.severity == "fix"} <= set(settled.weak)
        said += len(settled.weak)
    assert moved >= 2
    assert said >= 1


def rated(newtons: float, data: Any) -> None:
    data["joints"]["small"]["rating"] = newtons


def test_both_of_a_pair_are_changed() -> None:
    for finding, cure in offered(WEAK):
        if len(finding.parts) == 2 and not cure.shifts:
            then, (one, other) = design_from(cure.document), finding.parts
            left, right = (next(link for link in then.links if link.id == name) for name in (one, other))
            assert left.tube == right.tube
            assert left.frame.fastener == right.frame.fastener
            assert across(WEAK)[one] == other


@pytest.mark.parametrize("name", LAYOUTS)
def test_every_layout_can_be_looked_at(name: str) -> None:
    design = layout(name)
    known = {body.id for body in parts_of(design).bodies}
    for one in on_loads(design):
        assert {part.partition(".")[0] for part in one.place.parts} <= known
        assert one.severity in ("stop", "fix", "consider")


def test_the_command_says_it_with_what_would_mend_it(tmp_path: Any) -> None:
    file = tmp_path / "weak.json"
    file.write_text(json.dumps(design_data(WEAK)))
    out = run("check", str(file)).stdout
    assert "stop: Lower left link, and its mirror image: its tube stays bent, dropped on a rock" in out
    assert "to cure it: lower links of" in out
    assert "short of what is wanted" in "\n".join(loads_said(reckoned(WEAK)))


@pytest.mark.parametrize("design", [WEAK, *SOME[1:4]], ids=lambda one: one.name)
def test_a_verdict_on_loads_holds_just_as_far_as_is_said(design: Design) -> None:
    """At each end of the range: as grave just inside of it, not as grave just outside, by the design written anew."""
    looked = set()
    for one in [one for one in on_loads(design) if one.value is not None][:2]:
        for range_ in slack(design, one.id):
            looked.add(range_.path)
            for end, out in ((range_.low, -1.0), (range_.high, 1.0)):
                if end is None:
                    continue
                step = 0.012 * abs((range_.tried[0] if out < 0.0 else range_.tried[1]) - range_.value)
                grave = [
                    graved(with_input(design, one, range_.path, end + way * out * step), one, range_.path)
                    for way in (-1, 1)
                ]
                assert grave[0] == one.severity, (one.title, range_)
                assert grave[1] != one.severity, (one.title, range_)
    assert "vehicle.mass" in looked


def with_input(design: Design, one: Finding, path: str, value: float) -> Design:
    def put(data: Any) -> None:
        if path == "yield":
            name = one.id.partition(" ")[2]
            part = next(
                link for link in [*data["links"], data["lateral"]] if link and link.get("id", "panhard") == name
            )
            entry = part["tube"].get("material")
            steel = (data.get("materials") or {}).get(entry) or HOUSE
            data["materials"] = {**(data.get("materials") or {}), "other": {**steel, "yield": value}}
            part["tube"]["material"] = "other"
            return
        group, name = path.split(".")
        data[group] = {**(data.get(group) or {}), name: value}

    return changed(design, put)


HOUSE = {"name": "", "yield": 350.0, "modulus": 205_000.0, "density": 7850.0}


def graved(design: Design, one: Finding, path: str) -> str:
    """How grave that part's figure is in a design: its own finding, or that of the mirror image that it is paired with; of
    a part that alone is of other steel, its own."""
    part, pairs = one.id.partition(" ")[2], across(design)
    names = {
        f"{one.figure} {name}"
        for name in (part, pairs.get(part, part) if len(one.parts) > 1 and path != "yield" else part)
    }
    found = [other.severity for other in on_loads(design) if other.id in names]
    return max(found, key=["good", "consider", "fix", "stop"].index, default="good")
