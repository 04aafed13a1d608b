"""Designs side by side, what speaks against holes, and how trucks come out: each held against another way to it."""

import numpy as np
import pytest
from designs import DEMO, changed
from random_designs import random_designs

from oak_lever.api import (
    Design,
    Loaded,
    Refused,
    beside,
    clearances,
    cycle,
    findings_on,
    held_against,
    hole_map,
    one_change,
    outcomes,
    placed,
    read_design,
    tolerance,
)
from oak_lever.cycle import sweep_many
from oak_lever.judge.judged import judge
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.coordinates import spots
from oak_lever.weigh_up.outcomes import WITHIN
from oak_lever.weigh_up.racks import placed_in

GHYLL = read_design((DEMO / "ghyll-special-rear.json").read_text())
LOWER = read_design((DEMO / "ghyll-special-rear-lower-hole.json").read_text())
FRONT = read_design((DEMO / "fell-tender-front.json").read_text())
SOUND = [one for one in random_designs(seed=29, many=6) if cycle(one).located]


def test_side_by_side_says_what_each_says_by_itself() -> None:
    found = beside([GHYLL, LOWER])
    for n, design in enumerate((GHYLL, LOWER)):
        alone = {one.id: one for one in findings_on(design)}
        for row in found.rows:
            cell = row.cells[n]
            if cell is not None and row.id in alone:
                assert (cell.value, cell.severity) == (alone[row.id].value, alone[row.id].severity)
        counts = [sum(f.severity == level for f in alone.values()) for level in ("stop", "fix", "consider")]
        column = found.columns[n]
        assert [column.stops, column.fixes, column.considers] == counts
        other = {one.id for one in findings_on((GHYLL, LOWER)[1 - n])}
        wrong = {one.title for one in alone.values() if one.severity != "good" and one.id not in other}
        assert {one.title for one in column.alone} == wrong
    assert {row.id for row in found.rows} >= {"anti_squat", "ic_length", "pinion_change"}
    assert next((one.what, one.axis) for one in found.columns[1].differs) == ("upper frame mounts", "z")


def test_the_best_of_a_row_is_graver_nowhere_and_the_rest_are_worse() -> None:
    rank = ["good", "consider", "fix", "stop"]
    rows = [row for row in beside([GHYLL, LOWER]).rows if row.best]
    assert len(rows) > 3
    for row in rows:
        cells = [cell for cell in row.cells if cell is not None]
        least = min(rank.index(cell.severity) for cell in cells)
        best = [row.cells[n] for n in row.best]
        assert all(cell is not None and rank.index(cell.severity) == least for cell in best)
        assert len(best) < len(cells)


def test_a_load_changes_what_weights_decide_and_nothing_else() -> None:
    found = beside([GHYLL], [Loaded("Trailer", GHYLL.vehicle.mass + 300.0, 0.40)])
    assert [(one.of, one.load) for one in found.columns] == [(0, ""), (0, "Trailer")]
    for row in found.rows:
        own, loaded = row.cells
        if row.id in ("ic_length", "roll_center", "pinion_change", "rear_steer"):
            assert own == loaded

    def heavier(data: dict) -> None:  # type: ignore[type-arg]
        data["vehicle"] |= {"mass": GHYLL.vehicle.mass + 300.0, "front_share": 0.40}

    anew = {one.id: one.value for one in findings_on(changed(GHYLL, heavier))}
    by_id = {row.id: row for row in found.rows}
    assert any(by_id[name].cells[1].value == pytest.approx(anew[name]) for name in anew if name in by_id)  # type: ignore[union-attr]


def test_unlike_axles_none_and_too_many_are_refused() -> None:
    for designs, said in (([GHYLL, FRONT], "not compared"), ([], "from one"), ([GHYLL] * 7, "not 7")):
        with pytest.raises(Refused, match=said):
            beside(designs)


def test_what_speaks_against_a_hole_is_so_of_the_design_in_it() -> None:
    found = hole_map(GHYLL)
    against = list(held_against(GHYLL, found.sites, found.combinations))
    assert [one.combination for one in against] == list(range(len(found.combinations)))
    assert any(one.words for one in against)
    assert any(not one.words for one in against)
    names = mechanism_of(GHYLL).layout.mounts
    near_now = {(gap.a, gap.b): gap.gap for gap in clearances(GHYLL).pairs}
    for one in against:
        moved = placed_in(GHYLL, found.sites, [found.combinations[one.combination].at]).mounts[0]
        design = placed(GHYLL, {name: tuple(map(float, at)) for name, at in zip(names, moved, strict=True)})  # type: ignore[misc]
        near = {(gap.a, gap.b): gap for gap in clearances(design).pairs}
        for words in one.words:
            pairs = [g for pair, g in near.items() if g.gap < g.wanted and g.gap < near_now.get(pair, 1e9)]
            stops = [f.title for f in findings_on(design) if f.severity == "stop"]
            assert pairs or words in stops


def test_one_change_of_hole_is_the_nearest_to_the_step_of_all_single_changes() -> None:
    found = hole_map(GHYLL)
    at = tuple(site.now for site in found.sites)
    here = next(one for one in found.combinations if one.at == at)
    assert here.set is not None
    for by in (10.0, -10.0, 40.0):
        one = one_change(found, at, "anti_squat", by)  # type: ignore[arg-type]
        assert one is not None
        there = found.combinations[one.combination]
        assert sum(a != b for a, b in zip(there.at, at, strict=True)) == 1
        assert there.at[one.site] == one.hole
        gained = there.set["anti_squat"] - here.set["anti_squat"]  # type: ignore[index]
        assert one.changed["anti_squat"] == pytest.approx(gained)
        single = [c for c in found.combinations if sum(a != b for a, b in zip(c.at, at, strict=True)) == 1]
        changes = [c.set["anti_squat"] - here.set["anti_squat"] for c in single if c.set]
        same_way = [abs(change - by) for change in changes if change * by > 0.0]
        assert abs(gained - by) <= min(same_way) + 0.25 * abs(by)


@pytest.mark.parametrize("design", [GHYLL, *SOUND[:2]], ids=lambda one: one.name)
def test_likely_verdicts_are_what_other_trucks_worked_out_one_by_one_come_to(design: Design) -> None:
    found = outcomes(design, 2.0)
    assert len(found.held) > 5
    rng = np.random.default_rng(290)
    mechanism = mechanism_of(design)
    mounts = np.repeat(mechanism.mounts, 400, axis=0)
    mounts += rng.normal(0.0, 2.0, mounts.shape)
    judged = judge(sweep_many(design, mechanism.with_mounts(mounts), 11))
    for one in found.held:
        row = judged.figures.index(one.figure)
        value = judged.value[row]
        inside = (value >= judged.low[row]) & (value <= judged.high[row])
        sure = 3.0 * np.sqrt(max(one.likely * (1.0 - one.likely), 0.01) / 400.0)
        assert one.likely_exact == pytest.approx(inside.mean(), abs=3.0 * np.sqrt(0.25 / 200.0) + sure)
    smooth = next(one for one in found.held if one.figure in ("separation_axle", "roll_center", "anti_squat"))
    spread = float(np.nanstd(judged.value[judged.figures.index(smooth.figure)]))
    assert smooth.spread == pytest.approx(spread, rel=0.2)
    assert 0.0 <= found.together <= min(one.likely for one in found.held)


def test_where_the_axle_stands_is_what_the_tolerances_say_and_adjusters_take_pinion_and_square_out() -> None:
    found, slopes = outcomes(GHYLL, 1.5), tolerance(GHYLL, 1.5)
    by_name = {one.figure: one for one in found.places}
    for name, one in by_name.items():
        assert one.spread == pytest.approx(slopes.likely[name] or 0.0)  # type: ignore[index]
        assert one.adjusted <= one.spread + 1e-9
    for name, within in WITHIN.items():
        assert by_name[name].adjusted == pytest.approx(0.0, abs=1e-6)
        assert by_name[name].within == within
        draws = np.random.default_rng(1).normal(0.0, by_name[name].spread, 100_000)
        assert by_name[name].likely == pytest.approx((np.abs(draws) <= within).mean(), abs=0.01)
    assert by_name["roll_center_height"].adjusted > 0.0


def test_with_every_hole_off_by_its_ring_what_decides_it_holds_as_chance_has_it() -> None:
    found, slopes = outcomes(GHYLL, 1.0), tolerance(GHYLL, 1.0)
    assert {ring.mount for ring in found.rings} == {spot.name for spot in spots(GHYLL)}
    assert slopes.mounts is not None
    for name, within in WITHIN.items():
        squares = sum(
            (ring.by * (slopes.mounts[ring.mount][axis][name] or 0.0)) ** 2
            for ring in found.rings for axis in "xyz" if ring.mount in slopes.mounts
        )  # fmt: skip
        assert np.sqrt(squares) <= within * (1.0 + 1e-6)
    decided = [ring for ring in found.rings if ring.figure in WITHIN]
    assert decided
    assert all(0.0 < ring.by <= 12.7 for ring in found.rings)


def test_what_cannot_be_said_is_refused() -> None:
    def loose(data: dict) -> None:  # type: ignore[type-arg]
        data["links"] = data["links"][:1]
        data["lateral"] = None
        data["room"] = None
        data["corners"] = None

    with pytest.raises(Refused, match="nothing holds"):
        outcomes(changed(GHYLL, loose))
    with pytest.raises(ValueError, match="above 0"):
        outcomes(GHYLL, 0.0)
