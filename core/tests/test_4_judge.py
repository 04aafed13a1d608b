"""JUDGE: findings stand where, and only where, their figure says so."""

from typing import Any

import numpy as np
import pytest
from designs import changed

from oak_lever.api import cycle, findings
from oak_lever.design.gallery import FREE, LAYOUTS, layout
from oak_lever.judge.findings import said
from oak_lever.motion.freedom import held
from oak_lever.motion.mechanism import mechanism_of


def ids(design: Any) -> list[str]:
    return [finding.id for finding in findings(cycle(design, 9))]


def test_sound_layouts_have_no_stop() -> None:
    for name in FREE:
        assert ids(layout(name)) == []


def test_a_loose_axle_is_a_stop_that_names_the_way_it_is_free() -> None:
    loose = changed(layout("three links and panhard"), lambda data: data.update(lateral=None))
    (finding,) = findings(cycle(loose, 5))
    assert (finding.id, finding.severity) == ("loose", "stop")
    assert "sideways" in finding.message


def test_two_locators_are_a_stop_with_the_give_they_need() -> None:
    def add_bar(data: Any) -> None:
        data["lateral"] = {"kind": "panhard", "axle": {"at": [-150, 430, 520]}, "frame": {"at": [-150, -430, 540]}}

    fighting = changed(layout("double triangulated"), add_bar)
    found = {finding.id: finding for finding in findings(cycle(fighting, 9))}
    assert set(found) == {"binds-heave", "binds-articulation"}
    give = cycle(fighting, 9).heave.columns["bind"].max()
    assert found["binds-heave"].value == give


def test_short_travel_is_a_stop_that_says_where() -> None:
    def short(data: Any) -> None:
        data["travel"] = {"bump": 400.0, "droop": 400.0, "articulation": 5.0}
        for link, side in zip(data["links"][2:], (1, -1), strict=True):
            link["frame"]["at"] = [250.0, side * 300.0, 700.0]

    cycled = cycle(changed(layout("double triangulated"), short), 21)
    (finding,) = findings(cycled)
    assert finding.id == "ends-short-droop"
    assert finding.value == cycled.stops["heave"][0]


def test_short_travel_names_the_link_and_the_way_that_goes_free() -> None:
    def short(data: Any) -> None:
        data["travel"] = {"bump": 400.0, "droop": 400.0, "articulation": 5.0}
        for link, side in zip(data["links"][2:], (1, -1), strict=True):
            link["frame"]["at"] = [250.0, side * 300.0, 700.0]

    (finding,) = findings(cycle(changed(layout("double triangulated"), short), 21))
    assert "upper" in finding.message  # the two short ones, which stand on end there
    assert "pitch" in finding.message


def test_bind_names_the_constraint_that_gives_most() -> None:
    fighting = changed(layout("parallel and panhard"), lambda data: data["links"][3]["axle"].update(at=[38, -440, 690]))
    design = cycle(fighting, 9)
    worst = int(np.argmax(design.articulation.columns["bind"]))
    rows = held(mechanism_of(fighting), design.articulation.state[worst])
    assert np.abs(rows.errors).max() == pytest.approx(design.articulation.columns["bind"][worst], abs=1e-9)
    name = mechanism_of(fighting).layout.rows[int(np.argmax(np.abs(rows.errors)))].name
    (found,) = [finding for finding in findings(design) if finding.id == "binds-articulation"]
    assert said(name) in found.message


@pytest.mark.parametrize("name", LAYOUTS)
def test_derivatives_in_a_twisted_pose_are_those_of_the_errors(name: str) -> None:
    design = layout(name)
    mechanism = mechanism_of(design)
    state = cycle(design, 2, (40.0, 5.0)).here.state[0]  # type: ignore[union-attr]
    scale = [1, 1, mechanism.reach[0], mechanism.reach[0], mechanism.arm[0]]
    sine = np.sin(np.radians(5.0))

    def errors(unknown: int, by: float) -> Any:
        moved = state.copy()
        moved[unknown if unknown < 2 else unknown + 2] += by / scale[unknown]
        moved[3] = np.arcsin(sine / np.cos(moved[4]))
        return held(mechanism, moved).errors

    derivatives = held(mechanism, state).derivatives
    for unknown in range(derivatives.shape[1]):
        slope = (errors(unknown, 1e-3) - errors(unknown, -1e-3)) / 2e-3
        np.testing.assert_allclose(derivatives[:, unknown], slope, atol=1e-6)
