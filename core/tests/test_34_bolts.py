"""Bolts: torques against published tables, factors against the forces of the cases, and what nobody has said."""

import csv
import io
from math import pi
from typing import Any

import pytest
from designs import DEMO, changed
from random_designs import random_designs

from oak_lever.api import Design, JointBolt, joint_bolts, read_design, reckoned
from oak_lever.cut_sheet.lists import bolts_csv
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.design.loads import Fastener
from oak_lever.strength.bolts import GRADES, grade_of, tensile_area, torque_of

TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())
INCH = 25.4
LB_FT = 1.3558179


def bolt(diameter: float, strength: float) -> Fastener:
    return Fastener.model_validate({"diameter": diameter, "yield": strength})


@pytest.mark.parametrize(
    ("diameter", "square_inches"),
    [(0.25, 0.0318), (0.375, 0.0775), (0.5, 0.1419), (0.625, 0.226), (0.75, 0.334), (1.0, 0.606), (1.25, 0.969)],
)
def test_areas_of_inch_threads_are_those_of_the_tables(diameter: float, square_inches: float) -> None:
    assert tensile_area(diameter * INCH) == pytest.approx(square_inches * INCH**2, rel=4e-3)


@pytest.mark.parametrize(
    ("diameter", "area"), [(6, 20.1), (8, 36.6), (10, 58.0), (12, 84.3), (16, 157.0), (20, 245.0), (24, 353.0)]
)
def test_areas_of_metric_threads_are_those_of_the_tables(diameter: float, area: float) -> None:
    assert tensile_area(diameter) == pytest.approx(area, rel=4e-3)


@pytest.mark.parametrize(
    ("diameter", "strength", "pound_feet"),
    [(0.5, 634.0, 75.0), (0.5, 896.0, 106.0), (0.625, 896.0, 212.0), (0.75, 634.0, 266.0), (1.0, 896.0, 909.0)],
)
def test_torques_are_those_of_the_tables_for_plain_bolts(diameter: float, strength: float, pound_feet: float) -> None:
    assert torque_of(bolt(diameter * INCH, strength)) == pytest.approx(pound_feet * LB_FT, rel=0.015)


def test_a_thread_that_is_not_common_has_no_torque_and_near_sizes_are_told_apart() -> None:
    assert tensile_area(13.5) is None
    assert torque_of(bolt(13.5, 896.0)) is None
    inch, metric = tensile_area(0.3125 * INCH), tensile_area(8.0)
    assert inch is not None
    assert metric is not None
    assert inch != metric


def test_a_grade_holds_up_to_its_size_and_another_yield_is_taken_at_a_part_of_it() -> None:
    for grade in GRADES:
        found = grade_of(bolt(min(grade.up_to, 12.0), grade.yield_stress))
        assert found == grade
        assert 0.85 < grade.proof / grade.yield_stress < 0.95
        assert grade_of(bolt(grade.up_to + 1.0, grade.yield_stress)) is None
    plain = torque_of(bolt(12.7, 500.0))
    assert plain == pytest.approx(0.2 * 0.75 * 0.9 * 500.0 * tensile_area(12.7) * 12.7 / 1000.0)  # type: ignore[operator]


def fastened(design: Design, fastener: dict[str, float] | None) -> Design:
    """With that bolt at every mount that one bolt holds."""

    def put(data: Any) -> None:
        lateral = data.get("lateral") or {}
        ends = [link[end] for link in data["links"] for end in ("axle", "frame")]
        ends += [lateral[end] for end in ("axle", "frame", "left", "right") if isinstance(lateral.get(end), dict)]
        for one in ends:
            if isinstance(one["at"][0], (int, float)):
                one["fastener"] = fastener

    return changed(design, put)


def test_the_worst_factor_of_each_bolt_is_that_of_its_force_in_every_case() -> None:
    """Anew from what the cases say each joint carries: two planes at 0.577 of yield."""
    looked_at = 0
    for design in [*map(layout, LAYOUTS), *random_designs(seed=34, many=6), TENDER]:
        said = fastened(design, {"diameter": 15.875, "yield": 896.0})
        found = reckoned(said)
        for one in joint_bolts(said, found):
            part, end = one.mount.rsplit(".", 1)
            holds = 0.577 * 896.0 * 2 * pi * 15.875**2 / 4
            forces = [(case.forces or {}).get(part, {}).get(f"at_{end}") for case in found.cases]
            factors = [holds / force for force in forces if force is not None and force > 0.01]
            if one.worst is None:
                assert not factors
                continue
            assert one.worst.factor is not None
            assert min(abs(one.worst.factor - factor) / factor for factor in factors) < 1e-3
            assert one.worst.factor / one.worst.wanted >= min(factors) / 2.0 - 1e-6
            looked_at += 1
    assert looked_at > 60


def named(bolts: list[JointBolt], mount: str) -> JointBolt:
    return next(one for one in bolts if one.mount == mount)


def test_what_nobody_said_has_no_torque_and_a_joint_says_when_its_bolt_is_tightened() -> None:
    def joints(data: Any) -> None:
        data["links"][0]["axle"] |= {"joint": "own", "fastener": None}
        data["links"][1]["axle"] |= {"joint": "spherical", "fastener": None}
        data["links"][0]["frame"] |= {"joint": None, "fastener": {"diameter": 16.0, "yield": 640.0}}
        data["joints"] = {"own": {"limit": 12.0, "give": 2.0, "bolt": 14.2875}}

    design = changed(TENDER, joints)
    bolts = joint_bolts(design, reckoned(design))
    first, second = (named(bolts, f"{design.links[n].id}.axle") for n in (0, 1))
    assert (first.diameter, first.torque, first.worst, first.bush) == (14.2875, None, None, True)
    assert (second.diameter, second.bush) == (None, False)
    said = named(bolts, f"{design.links[0].id}.frame")
    assert (said.grade, said.bush) == ("8.8", None)
    rows = list(csv.DictReader(io.StringIO(bolts_csv(bolts))))
    assert [row["mount"] for row in rows] == [one.mount for one in bolts]
    row = next(one for one in rows if one["mount"] == said.mount)
    assert float(row["torque_nm"]) == pytest.approx(said.torque, abs=0.5)
    assert row["tighten"] == "at ride height if the joint is a bush"
    assert next(one for one in rows if one["mount"] == first.mount)["torque_nm"] == ""


def test_every_mount_of_every_layout_is_listed_once() -> None:
    for name in LAYOUTS:
        design = layout(name)
        mounts = [one.mount for one in joint_bolts(design, reckoned(design))]
        assert len(mounts) == len(set(mounts))
        for link in design.links:
            assert f"{link.id}.frame" in mounts
