"""Rules that bind: held against the design itself, never softened, kept with the truck, and cured as if they were bands."""

import json
from collections.abc import Iterator
from functools import partial
from math import ceil, dist
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed, run
from random_designs import random_designs

from oak_lever.api import (
    Design,
    Finding,
    Refused,
    cures,
    cycle,
    design_data,
    design_from,
    findings,
    findings_on,
    first_truck,
    overlays,
    parts_of,
    read_design,
    resolved,
    split,
    truck_data,
    truck_from,
)
from oak_lever.figures.register import BY_ID
from oak_lever.judge.judged import judgment

TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())


def ruled(design: Design, *rules: dict[str, Any]) -> Design:
    return changed(
        design, lambda data: data.update(rules=[{"id": f"r{n}", "words": "Book", **one} for n, one in enumerate(rules)])
    )


def widened(figure: str, data: Any) -> None:
    data["bands"] = {figure: [-1e6, 1e6]}


def on_rules(design: Design) -> dict[str, Finding]:
    return {
        one.id.partition(" ")[2]: one
        for one in findings_on(design)
        if one.figure in ("rule", "rule_place", "rule_unread")
    }


@pytest.mark.parametrize("design", random_designs(seed=38), ids=lambda one: one.name)
def test_a_figure_is_held_against_the_rule_and_no_band_softens_it(design: Design) -> None:
    """Both sides of each of its figures' own values, with a band that would allow anything."""
    for one in findings(cycle(design)):
        if one.value is None or one.figure not in ("anti_squat", "roll_center", "pinion_change", "swing"):
            continue
        wide = changed(design, partial(widened, one.figure))
        below, above = one.value - 0.01, one.value + 0.01
        found = on_rules(ruled(
            wide, {"kind": "figure", "figure": one.figure, "high": below, "written": "Page 7"},
            {"kind": "figure", "figure": one.figure, "high": above},
            {"kind": "figure", "figure": one.figure, "low": above},
            {"kind": "figure", "figure": one.figure, "low": below, "high": above},
        ))  # fmt: skip
        assert [found[f"r{n}"].severity for n in range(4)] == ["stop", "good", "stop", "good"]
        assert [found[f"r{n}"].verdict for n in range(4)] == ["high", "inside", "low", "inside"]
        assert (found["r0"].value, found["r0"].unit, found["r0"].source) == (one.value, one.unit, "Page 7")
        assert found["r0"].place == one.place


def test_distances_and_heights_are_those_of_the_mounts() -> None:
    at = {spot.name: spot.at for spot in parts_of(TENDER).spots}
    apart, high = dist(at["lower-left.axle"], at["lower-left.frame"]), at["lower-left.frame"][2]
    ends = {"kind": "distance", "from": "lower-left.axle", "to": "lower-left.frame"}
    found = on_rules(ruled(
        TENDER, {**ends, "low": apart + 1.0}, {**ends, "low": apart - 1.0}, {"kind": "height", "of": "lower-left.frame",
        "low": high + 0.5}, {"kind": "height", "of": "lower-left.frame", "low": high}, {**ends, "to": "no-such.frame",
        "high": 1.0},
    ))  # fmt: skip
    assert [found[f"r{n}"].severity for n in range(5)] == ["stop", "good", "stop", "good", "consider"]
    assert found["r0"].value == pytest.approx(apart)
    assert found["r2"].value == pytest.approx(high)
    assert found["r0"].place.parts == ("lower-left.axle", "lower-left.frame")
    assert {found[f"r{n}"].figure for n in range(4)} == {"rule_place"}
    assert not judgment(BY_ID["rule_place"]).to_look_up  # moves are worked out for it
    assert "not there on this axle" in found["r4"].message


def test_what_is_looked_at_by_hand_stays_open_until_somebody_has() -> None:
    hand = {"kind": "hand", "words": "Two bolts at each strap"}
    found = on_rules(ruled(TENDER, hand, {**hand, "checked": True}, {**hand, "end": "front"}))
    assert {name: one.severity for name, one in found.items()} == {"r0": "consider", "r1": "good"}
    assert found["r0"].title == "Rule: Two bolts at each strap"
    assert cures(ruled(TENDER, hand), "rule_unread r0", 1.0) == []


def test_a_rule_on_a_figure_is_cured_as_a_band_would_be_and_the_bands_stay() -> None:
    own = changed(TENDER, lambda data: data.update(bands={"swing": [None, 30.0]}))
    now = next(one.value for one in findings(cycle(own)) if one.figure == "anti_squat")
    assert now is not None
    design = ruled(own, {"kind": "figure", "figure": "anti_squat", "low": now + 5.0})
    found = cures(design, "rule r0", 1.0)
    assert len(found) >= 2
    for cure in found:
        then = design_from(cure.document)
        assert design_data(then)["bands"] == {"swing": [None, 30.0]}
        value = next(one.value for one in findings(cycle(then)) if one.figure == "anti_squat")
        assert value is not None
        assert cure.figures["rule r0"] == pytest.approx(value)
        if cure.meets:
            assert value >= now + 5.0
            assert on_rules(then)["r0"].severity == "good"
            assert "rule r0" in cure.cures
    assert any(cure.meets for cure in found)


def stops(design: Design) -> set[str]:
    """What is a stop; a finding of two mirror images goes by the name of either."""
    return {one.id.replace("right", "left") for one in findings_on(design) if one.severity == "stop"}


def broken_places(design: Design, seed: int) -> Iterator[tuple[dict[str, Any], str, float]]:
    """Rules on where mounts stand that a design breaks by some millimeters, with what they measure, by a name."""
    rng = np.random.default_rng(seed)
    at = {spot.name: spot.at for spot in parts_of(design).spots}
    links = [one.id for one in design.links if one.kind != "radius_arm"]
    eyes = [one for one in at if one.startswith(("coilover", "damper", "bag"))]
    for name in (f"{links[0]}.frame", *eyes[:1]):
        by = float(rng.uniform(3.0, 15.0))
        yield {"kind": "height", "of": name, "low": at[name][2] + by}, name, by
        yield {"kind": "height", "of": name, "high": at[name][2] - by}, name, by
    ends = (f"{links[0]}.axle", f"{links[0]}.frame")
    long = dist(*(at[name] for name in ends))
    by = float(rng.uniform(3.0, 15.0))
    yield {"kind": "distance", "from": ends[0], "to": ends[1], "high": long - by}, "", by
    yield {"kind": "distance", "from": ends[0], "to": ends[1], "low": long + by}, "", by


def test_where_mounts_stand_is_cured_by_the_fewest_increments_that_keep_the_rule() -> None:
    offered, met, eyes = 0, 0, 0
    for n, design in enumerate(random_designs(seed=138)):
        for rule, name, by in broken_places(design, n):
            for cure in cures(ruled(design, rule), "rule_place r0", 2.0):
                offered += 1
                then = on_rules(design_from(cure.document))["r0"]
                assert cure.meets == (then.severity == "good")
                assert cure.figures["rule_place r0"] == pytest.approx(then.value)
                assert stops(design_from(cure.document)) <= stops(ruled(design, rule)), cure.words
                if cure.meets and len(cure.shifts) == 1 and name:
                    met += 1
                    eyes += "frame" not in name or not name.startswith(("lower", "upper"))
                    # straight up or down: the whole increments that reach over the limit
                    assert (cure.shifts[0].axis, abs(cure.shifts[0].by)) == ("z", 2.0 * ceil(by / 2.0 - 1e-9))
    assert offered >= 12
    assert met >= 6
    assert eyes >= 1


def test_nothing_that_is_offered_breaks_a_rule() -> None:
    """With the anti-squat bound as it is, no cure of anything takes it away."""
    now = next(one.value for one in findings(cycle(TENDER)) if one.figure == "anti_squat")
    assert now is not None
    bound = ruled(TENDER, {"kind": "figure", "figure": "anti_squat", "low": now - 0.5, "high": now + 0.5})
    offered = 0
    for one in findings(cycle(bound)):
        for cure in cures(bound, one.id, 2.0) if one.severity in ("stop", "fix") else ():
            offered += 1
            assert on_rules(design_from(cure.document))["r0"].severity == "good", cure.words
    assert offered >= 3


def test_rules_are_the_truck_s_and_each_axle_sees_its_own() -> None:
    rules: list[dict[str, Any]] = [
        {"id": "a", "kind": "hand", "words": "Firewall between tank and seat"},
        {"id": "b", "kind": "figure", "figure": "anti_squat", "high": 60.0, "words": "No more than 60", "end": "rear"},
    ]
    truck = truck_from({**truck_data(first_truck("Truck", TENDER)), "rules": rules})
    bare, figures = split(ruled(TENDER, rules[0]))
    assert "rules" not in bare
    assert [one["words"] for one in figures["rules"]] == [rules[0]["words"]]
    stood = resolved(bare, truck)
    assert [one.id for one in stood.rules or ()] == ["a", "b"]
    assert overlays(truck)["front"]["rules"] == truck_data(truck)["rules"]
    without = resolved(bare, first_truck("Truck", TENDER))
    assert without.rules is None
    assert split(stood)[0] == split(without)[0]


@pytest.mark.parametrize(
    ("rule", "says"),
    [
        ({"kind": "figure", "figure": "anti_squat"}, "says no limit"),
        ({"kind": "figure", "figure": "anti_squat", "low": 2.0, "high": 1.0}, "allows less than nothing"),
        ({"kind": "figure", "figure": "antisquat", "low": 2.0}, "did you mean anti_squat"),
        ({"kind": "hand", "words": ""}, "rules[0].words"),
        ({"kind": "weight", "low": 1.0}, "rules[0]"),
    ],
)
def test_rules_that_can_not_be_are_refused_in_words(rule: dict[str, Any], says: str) -> None:
    with pytest.raises(Refused) as refused:
        ruled(TENDER, rule)
    assert any(says in f"{fault.path} {fault.message}" for fault in refused.value.faults)
    with pytest.raises(Refused):
        truck_from({**truck_data(first_truck("Truck", TENDER)), "rules": [{"id": "a", "words": "Book", **rule}]})
    twice = [{"id": "a", "kind": "hand", "words": "Once"}, {"id": "a", "kind": "hand", "words": "Twice"}]
    with pytest.raises(Refused, match="another rule's id"):
        truck_from({**truck_data(first_truck("Truck", TENDER)), "rules": twice})


def test_the_command_says_it(tmp_path: Any) -> None:
    file = tmp_path / "bound.json"
    bound = ruled(
        TENDER,
        {
            "kind": "figure",
            "figure": "anti_squat",
            "high": 60.0,
            "words": "No more than 60 %",
            "written": "Class book 4.2",
        },
    )
    file.write_text(json.dumps(design_data(bound)))
    out = run("check", str(file)).stdout
    assert "stop: Rule: No more than 60 %" in out
    assert "wanted: up to 60.0 % (Class book 4.2)" in out
