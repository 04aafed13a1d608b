"""Which hole to try next: every change that is offered is made in the file anew, and does what is said of it."""

import json
from itertools import chain
from math import dist
from typing import Any

import pytest
from designs import DEMO, changed
from random_designs import random_designs

from oak_lever.api import Design, Refused, design_from, findings_apart, findings_on, holes_to_try, read_design
from oak_lever.design.parts import parts_of, said
from oak_lever.design.reader import design_data
from oak_lever.judge.complaints import COMPLAINTS
from oak_lever.weigh_up.racks import sites_of

FELT = tuple(COMPLAINTS)
SPECIAL = [
    read_design((DEMO / name).read_text()) for name in ("ghyll-special-rear.json", "ghyll-special-rear-lower-hole.json")
]


def racked(design: Design) -> Design:
    """With three holes an inch apart, up and down, at the frame ends of its links."""

    def drill(data: Any) -> None:
        zones = []
        for link in data["links"]:
            if link["kind"] == "radius_arm":
                continue
            x, y, z = link["frame"]["at"]
            holes = [[x, y, z + by] for by in (-25.4, 0.0, 25.4)]
            name = f"{link['id']}.frame"
            zones.append(
                {"id": f"holes-{name}", "name": "", "mounts": [name], "region": {"kind": "holes", "at": holes}}
            )
        data["room"] = (data.get("room") or {}) | {"zones": zones}

    return changed(design, drill)


EVERY = [*SPECIAL, *map(racked, random_designs(54, 4))]


def in_hole(design: Design, mounts: tuple[str, ...], left: str, at: Any) -> Design:
    """The file with those mounts in that hole, the right one in its mirror image."""
    data = json.loads(json.dumps(design_data(design)))
    parts = {link["id"]: link for link in data["links"]} | {"panhard": data.get("lateral")}
    for name in mounts:
        part, end = name.rsplit(".", 1)
        holder = parts[part][end]
        place = list(at) if name == left else [at[0], -at[1], at[2]]
        holder["at"] = place
    return design_from(data)


def graves(design: Design) -> dict[str, str]:
    return {one.id: one.severity for one in chain(findings_on(design), findings_apart(design))}


@pytest.mark.parametrize("design", EVERY, ids=range(len(EVERY)))
def test_what_is_offered_does_what_is_said_and_makes_no_stop(design: Design) -> None:
    before = {one.id: one for one in findings_on(design)}
    offered = holes_to_try(design, FELT)
    assert len({one.finding for one in offered}) == len(offered)
    stops = {name for name, grave in graves(design).items() if grave == "stop"}
    for one in offered:
        site = next(
            site for site in sites_of(design)
            if site.now == one.was - 1 and all(design_said(design, name) in one.mounts for name in site.mounts)
        )  # fmt: skip
        moved = in_hole(design, site.mounts, site.left, site.holes[one.hole - 1])
        then = {found.id: found for found in findings_on(moved)}.get(one.finding)
        assert before[one.finding].value == pytest.approx(one.now)
        if then is not None:
            assert then.value == pytest.approx(one.then, abs=1e-6)
            assert one.inside == (then.severity == "good")
        else:
            assert one.inside  # what is good of a part is not listed by itself
        assert short(before[one.finding], one.then) < short(before[one.finding], one.now)
        assert {name for name, grave in graves(moved).items() if grave == "stop"} <= stops
        for bar, by in one.longer.items():
            ends = [next(body for body in parts_of(d).bodies if body.id == bar) for d in (design, moved)]
            assert dist(ends[1].a.at, ends[1].b.at) - dist(ends[0].a.at, ends[0].b.at) == pytest.approx(by)


def design_said(design: Design, name: str) -> str:
    spot = next(spot for spot in parts_of(design).spots if spot.name == name)
    return f"{said(design, spot.part)}, {spot.words}"


def short(finding: Any, value: float) -> float:
    """How far outside the band; of a figure that only ever wants less, or more, how much of it."""
    if finding.low is None and finding.high is not None:
        return value
    if finding.high is None and finding.low is not None:
        return -value
    return max(0.0, value - float(finding.high), float(finding.low) - value)


def test_enough_is_offered_and_nothing_where_nothing_was_felt_or_nothing_is_racked() -> None:
    assert sum(len(holes_to_try(design, FELT)) for design in SPECIAL) >= 4
    assert {one.finding for one in holes_to_try(SPECIAL[0], ("hops",))} <= {"anti_squat", "bind"}
    assert holes_to_try(SPECIAL[0], ()) == []
    assert holes_to_try(read_design((DEMO / "fell-tender-rear.json").read_text()), FELT) == []


def test_a_mount_that_stands_in_no_hole_is_not_moved_to_one() -> None:
    def off(data: Any) -> None:
        for link in data["links"]:
            link["frame"]["at"][2] += 3.0

    try:
        design = changed(SPECIAL[0], off)
    except Refused:
        pytest.fail("a mount may stand beside its holes")
    assert all("frame" not in one.mounts for one in holes_to_try(design, FELT))
