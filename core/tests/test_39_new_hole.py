"""Where one more hole in a row would put the window's middle, against cycles of the same designs and plain geometry."""

from math import dist, hypot, inf, isfinite
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed
from making import bracketed, jointed
from random_designs import random_designs

from oak_lever.api import Design, NewHole, Refused, cut, cycle, design_from, new_holes, read_design, verdicts_on
from oak_lever.weigh_up.racks import sites_of

GHYLL = read_design((DEMO / "ghyll-special-rear.json").read_text())
BOLT = 12.7
EDGE = 1.5 * BOLT


def racked(design: Design, name: str, rng: np.random.Generator, brackets: bool) -> Design:
    """With a row of three holes at a left mount and its mirror image, the mounts in the middle one."""
    link, end = name.split(".")
    right = link.replace("left", "right")
    by_id: dict[str, Any] = {one.id: one for one in design.links}
    x, y, z = getattr(by_id[link], end).at
    way = rng.normal(size=3) * [1.0, 0.0, 2.0]
    way *= rng.uniform(44.0, 70.0) / np.linalg.norm(way)
    row = [[x - way[0], y, z - way[2]], [x, y, z], [x + way[0], y, z + way[2]]]

    def change(data: Any) -> None:
        zones = [
            {"id": side, "mounts": [f"{one}.{end}"], "region": {"kind": "holes", "at": [[a, s * b, c] for a, b, c in row]}}
            for side, one, s in (("left", link, 1.0), ("right", right, -1.0))
        ]  # fmt: skip
        data["room"] = {"zones": zones}
        for one in data["links"]:
            if brackets and one["id"] in (link, right):
                one[end]["bolt"] = [0.0, 1.0, 0.0]
            if one["id"] == right:
                one[end]["at"] = [x, -y, z]
                other = "frame" if end == "axle" else "axle"
                a, b, c = getattr(by_id[link], other).at
                one[other]["at"] = [a, -b, c]

    made = changed(jointed(design), change)
    if not brackets:
        return made
    low = min(c for _, _, c in row) if end == "frame" else 0.0
    base = {"kind": "face", "at": [x, y, low - 40.0], "normal": [0.0, 0.0, 1.0]}
    some = [
        {"mounts": [f"{one}.{end}"], "base": base, "foot": 120.0, "edge": 40.0,
         "holes": [[a, s * b, c] for a, b, c in row]}
        for one, s in ((link, 1.0), (right, -1.0))
    ]  # fmt: skip
    return bracketed(made, *some)


def every() -> list[Design]:
    rng = np.random.default_rng(39)
    found = []
    for n, design in enumerate(random_designs(39, many=18)):
        left = [one.id for one in design.links if one.id.endswith("left") and one.kind != "radius_arm"]
        if left:
            end = ("frame", "axle")[n % 2]
            found.append(racked(design, f"{left[n % len(left)]}.{end}", rng, brackets=end == "frame"))
    return found


EVERY = every()


def at_place(design: Design, name: str, at: Any) -> Design:
    """The design with a left mount and its mirror image elsewhere, by its document."""
    link, end = name.split(".")

    def change(data: Any) -> None:
        for one in data["links"]:
            if one["id"] == link:
                one[end]["at"] = list(at)
            if one["id"] == link.replace("left", "right"):
                one[end]["at"] = [at[0], -at[1], at[2]]

    return changed(design, change)


def off_middle(design: Design, name: str, at: Any, bands: dict[str, Any]) -> float:
    """How far from the window's middle its figures are with the mount there, by a cycle of that design."""
    try:
        row = cycle(at_place(design, name, at), 3).data()["ride"]
    except Refused:
        return inf
    worst = 0.0
    for figure, (low, high) in bands.items():
        value = row[figure]
        if value is None and figure == "ic_length" and high is None:
            continue
        if value is None:
            return inf
        if low is None or high is None:
            edge = high if low is None else low
            worst = max(worst, 1.0 - (value - edge) * (1.0 if high is None else -1.0) / (0.1 * abs(edge)))
        else:
            worst = max(worst, abs(value - (low + high) / 2.0) / ((high - low) / 2.0))
    return worst


def bands_of(design: Design) -> dict[str, Any]:
    return {
        one.figure.id: (one.low, one.high)
        for one in verdicts_on(design).checks
        if one.figure.id in ("anti_squat", "ic_length") and (one.low is not None or one.high is not None)
    }


def along(row: Any, part: float) -> Any:
    """A place on the way through the holes: 0 to 1 between the first two, past the ends below 0 and above."""
    n = min(max(int(np.floor(part)), 0), len(row) - 2)
    return np.array(row[n]) + (part - n) * (np.array(row[n + 1]) - np.array(row[n]))


def metal_of(design: Design, one: NewHole, row: Any, at: Any) -> bool:
    """Whether a hole there has 1.5 bolts to every hole's edge and its plate's, by plain points."""
    if any(dist(at, hole) < EDGE + BOLT / 2.0 for hole in row):
        return False
    for plate in cut(design).plates:
        if one.bracket is not None and plate.part.startswith(f"{one.bracket}-"):
            arm = np.array(at) - plate.origin
            here = (float(arm @ plate.u), float(arm @ plate.v))
            if any(hypot(here[0] - u, here[1] - v) < EDGE + BOLT / 2.0 for u, v, _ in plate.holes):
                return False
            turn = np.linspace(0.0, 2.0 * np.pi, 73)
            ring = [(here[0] + EDGE * np.cos(t), here[1] + EDGE * np.sin(t)) for t in turn]
            corners = np.array(plate.outline.points(0.001))
            if not all(_inside(corners, place) for place in ring):
                return False
    return True


def _inside(corners: Any, at: Any) -> bool:
    """By how often the outline goes round it."""
    angle = np.arctan2(*(corners - at).T[::-1])
    turned = np.diff(np.append(angle, angle[0]))
    return abs(float(((turned + np.pi) % (2.0 * np.pi) - np.pi).sum())) > np.pi


def test_enough_is_offered() -> None:
    found = [one for design in EVERY for one in new_holes(design)]
    assert sum(one.middle is not None for one in found) >= 4
    assert sum(one.drilled is not None for one in found) >= 3
    assert any(one.bracket and one.drilled for one in found)


@pytest.mark.parametrize("n", range(len(EVERY)), ids=[one.name for one in EVERY])
def test_no_other_place_along_the_row_is_nearer_to_the_windows_middle(n: int) -> None:
    design, rng = EVERY[n], np.random.default_rng(n)
    bands = bands_of(design)
    for one in new_holes(design):
        name = sites_of(design)[one.site].left
        row = sites_of(design)[one.site].holes
        holes = [off_middle(design, name, at, bands) for at in row]
        if min(holes) < inf:
            assert one.best is not None
            assert holes[one.best] == pytest.approx(min(holes), abs=1e-6)
            assert one.best_middle == pytest.approx(min(holes), abs=1e-6)
        for found in (one.middle, one.drilled):
            if found is not None:
                assert off_middle(design, name, found.at, bands) == pytest.approx(found.middle, abs=1e-6)
                assert found.middle < min(holes)
                ends = [dist(found.at, row[k]) for k in (found.before, found.after) if k is not None]
                assert ends == pytest.approx([found.from_before, *([found.from_after] if found.after is not None else [])])  # fmt: skip
        if one.drilled is not None:
            assert metal_of(design, one, row, one.drilled.at)
        least = one.middle.middle if one.middle else min(holes)
        soundest = one.drilled.middle if one.drilled else min(holes)
        for part in rng.uniform(-1.0, 3.0, 16):
            at = along(row, float(part))
            off = off_middle(design, name, at, bands)
            near = off_middle(design, name, at + 1.0 * (np.array(row[1]) - row[0]) / dist(row[1], row[0]), bands)
            slack = 0.03 + (2.0 * abs(near - off) if isfinite(near) and isfinite(off) else 0.0)
            assert off > least - slack
            assert off > soundest - slack or not metal_of(design, one, row, at)


@pytest.mark.parametrize("n", range(len(EVERY)), ids=[one.name for one in EVERY])
def test_what_is_drilled_is_in_its_row_and_its_plate_with_the_mounts_in_it(n: int) -> None:
    design = EVERY[n]
    for one in new_holes(design):
        assert (one.design is None) == (one.drilled is None)
        if one.design is None or one.drilled is None:
            continue
        then = design_from(one.design)
        site = sites_of(then)[one.site]
        assert site.holes == (*sites_of(design)[one.site].holes, one.drilled.at)
        assert site.now == len(site.holes) - 1
        rows, ride = cycle(then, 41).heave.rows(), cycle(then, 3).data()["ride"]
        for figure in ("anti_squat", "ic_length", "roll_center_height", "roll_steer"):
            there = one.drilled.set[figure]
            assert ride[figure] == (there if there is None else pytest.approx(there, rel=1e-6, abs=1e-6))
        swing = [line["pinion_change"] for line in rows if line["reached"]]
        # the map's rows stand at other travels than the cycle's, which has ride among them
        assert max(swing) - min(swing) == pytest.approx(one.drilled.set["pinion_range"], abs=0.1)
        made = cut(then)
        assert not made.faults
        for plate in made.plates:
            if one.bracket is not None and plate.part.startswith(f"{one.bracket}-"):
                arm = np.array(one.drilled.at) - plate.origin
                here = (float(arm @ plate.u), float(arm @ plate.v))
                assert min(hypot(here[0] - u, here[1] - v) for u, v, _ in plate.holes) < 1e-6
                assert len(plate.holes) == 4


def test_without_a_bolt_nobody_can_tell_whether_there_is_metal() -> None:
    for one in new_holes(GHYLL):
        assert one.middle is not None
        assert (one.bolt, one.edge, one.drilled, one.design) == (None, None, None, None)
        assert one.middle.metal is None


def test_a_row_of_one_hole_has_no_way_to_go_and_no_row_is_refused() -> None:
    def alone(data: Any) -> None:
        for zone in data["room"]["zones"]:
            if zone["region"]["kind"] == "holes":
                zone["region"]["at"] = zone["region"]["at"][:1]

    assert new_holes(changed(GHYLL, alone)) == []
    with pytest.raises(Refused, match="there is no rack"):
        new_holes(changed(GHYLL, lambda data: data.pop("room")))


def test_where_a_hole_is_as_near_as_can_be_told_none_is_offered() -> None:
    """The bands laid round what the hole in use does."""
    (one, *_) = new_holes(GHYLL)
    assert one.best_set is not None
    now = cycle(GHYLL, 3).data()["ride"]
    around = changed(GHYLL, lambda data: data.update(bands={
        "anti_squat": [now["anti_squat"] - 20.0, now["anti_squat"] + 20.0],
        "ic_length": [now["ic_length"] - 400.0, now["ic_length"] + 400.0],
    }))  # fmt: skip
    for site in new_holes(around):
        assert site.best == sites_of(GHYLL)[site.site].now
        assert site.best_middle == pytest.approx(0.0, abs=1e-6)
        assert site.middle is None
