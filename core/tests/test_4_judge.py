"""JUDGE: findings stand where, and only where, their figure says so."""

from typing import Any

from designs import changed

from oak_lever.api import cycle, findings
from oak_lever.design.gallery import FREE, layout


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
