"""THE TRUCK: what a truck file may say, what is refused and where; designs split from it and resolved onto it."""

import json
from typing import Any

import jsonschema
import pytest
from designs import DEMO, changed

from oak_lever.api import (
    Refused,
    changed_figures,
    cycle,
    design_data,
    design_from,
    differences,
    first_truck,
    overlays,
    read_design,
    read_truck,
    resolved,
    since,
    split,
    truck_data,
    truck_from,
    with_figures,
    write_truck,
)  # fmt: skip
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.truck.schema import truck_schema

DESIGNS = [file for file in sorted(DEMO.glob("*.json")) if not file.stem.endswith("-truck")]
TRUCKS = sorted(DEMO.glob("*-truck.json"))


@pytest.fixture
def truck() -> dict[str, Any]:
    """A good truck's data with readings of every kind, to spoil."""
    return {
        "format": "oak-lever-truck", "version": 1, "name": "Yard truck", "datum": "cab crossmember", "use": "trail",
        "bands": {"roll_center": [None, 700.0]}, "rails": None, "room": None,
        "vehicle": {"mass": 3100.0, "front_share": 0.53, "cg_height": 905.0, "brake_front": 0.62},
        "axles": {
            end: {"station": at, "tire_diameter": 940.0, "tire_radius_loaded": 445.0, "tire_width": 317.5, "track": 1680.0}
            for end, at in (("front", 2650.0), ("rear", 0.0))
        },
        "sources": {"vehicle.mass": "measured", "vehicle.cg_height": "guessed"},
        "marks": [{"id": "rail-left", "at": [2100.0, 400.0, 560.0]}, {"id": "rail-right", "at": [2100.0, -400.0, 560.0]}],
        "readings": [
            {"id": "r1", "kind": "distance", "from": "rail-left", "to": "rear-hub-left", "value": 82.5, "unit": "in", "instrument": "tape"},
            {"id": "r2", "kind": "height", "point": "rail-left", "value": 561.0, "unit": "mm", "instrument": "laser"},
            {"id": "r3", "kind": "angle", "of": "rear_pinion", "value": 86.8, "unit": "deg", "zero": "plumb", "face": "along", "points": "up", "travel": -30.0},
            {"id": "r4", "kind": "scale", "end": "front", "side": "left", "value": 1810, "unit": "lb", "raised": None},
            {"id": "r5", "kind": "scale", "end": "front", "value": 3650.0, "unit": "lb", "raised": {"end": "rear", "by": 600.0}},
            {"id": "r6", "kind": "across", "from": "front-hub-left", "to": "front-hub-right", "value": 66.0, "unit": "in", "sigma": 0.1, "left_out": True, "by": "N.", "note": "again"},
        ],
        "cases": [{"name": "Loaded", "mass": 3450.0, "front_share": 0.48, "cg_height": 930.0}],
        "shop": {"bay": 2},
    }  # fmt: skip


def test_a_truck_comes_back_as_it_was(truck: dict[str, Any]) -> None:
    assert json.loads(write_truck(truck_from(truck))) == truck
    assert truck_data(read_truck(write_truck(truck_from(truck)))) == truck
    jsonschema.Draft202012Validator(truck_schema()).validate(truck)


def reading(n: int, **changes: Any) -> Any:
    return lambda data: data["readings"][n].update(changes)


SPOILED: list[tuple[Any, str]] = [
    (lambda data: data.update(format="oak-lever-design"), "format"),
    (lambda data: data.update(version=2), "version"),
    (lambda data: data["vehicle"].update(brake_front=1.2), "vehicle.brake_front"),
    (lambda data: data["vehicle"].pop("mass"), "vehicle.mass"),
    (lambda data: data["axles"]["rear"].update(track=0), "axles.rear.track"),
    (lambda data: data["axles"].pop("front"), "axles.front"),
    (lambda data: data["axles"]["front"].update(station=0.0), "axles.front.station"),
    (lambda data: data["sources"].update({"vehicle.mass": "heard"}), "sources.vehicle.mass"),
    (lambda data: data["bands"].update(beauty=[1, 2]), "bands.beauty"),
    (lambda data: data["marks"][0].update(id="rear-hub-left"), "marks[0].id"),
    (lambda data: data["marks"][1].update(id="rail-left"), "marks[1].id"),
    (reading(0, to="nowhere"), "readings[0].to"),
    (reading(0, to="rail-left"), "readings[0].to"),
    (reading(0, to="rail-right"), "readings[0].to"),
    (reading(0, unit="deg"), "readings[0].unit"),
    (reading(0, instrument="gauge"), "readings[0].instrument"),
    (reading(0, value=-1.0), "readings[0].value"),
    (reading(0, sigma=0.0), "readings[0].sigma"),
    (reading(1, id="r1"), "readings[1].id"),
    (reading(1, point="moon"), "readings[1].point"),
    (reading(2, value=90.5), "readings[2].value"),
    (reading(2, unit="mm"), "readings[2].unit"),
    (reading(2, zero="flat"), "readings[2].zero"),
    (reading(3, unit="mm"), "readings[3].unit"),
    (reading(3, instrument="tape"), "readings[3].instrument"),
    (reading(3, value=-0.5), "readings[3].value"),
    (reading(4, raised={"end": "rear", "by": 0.0}), "readings[4].raised.by"),
    (reading(4, raised={"end": "rear", "by": 2650.0}), "readings[4].raised.by"),
    (reading(5, kind="guess"), "readings[5].kind"),
]  # fmt: skip


@pytest.mark.parametrize(("spoil", "path"), SPOILED)
def test_a_fault_of_a_truck_is_said_by_its_path(truck: dict[str, Any], spoil: Any, path: str) -> None:
    spoil(truck)
    with pytest.raises(Refused) as refused:
        truck_from(truck)
    assert path in [fault.path for fault in refused.value.faults]


def test_runs_and_fit_up_readings_each_have_an_id_of_their_own(truck: dict[str, Any]) -> None:
    run = {
        "id": "d1",
        "setting": "Lower hole",
        "felt": ["hops"],
        "than_before": "worse",
        "figures": {"anti_squat": 88.0},
    }
    kept = truck_from({**truck, "fit_up": {"rear": {"drives": [run, {**run, "id": "d2"}]}}})
    assert truck_data(kept)["fit_up"]["rear"]["drives"][0] == run
    with pytest.raises(Refused) as refused:
        truck_from(
            {**truck, "fit_up": {"rear": {"drives": [run, run]}, "front": {"drives": [{"id": "d1"}, {"id": "d1"}]}}}
        )
    assert [fault.path for fault in refused.value.faults] == ["fit_up.rear.drives[1].id", "fit_up.front.drives[1].id"]
    with pytest.raises(Refused):
        truck_from({**truck, "fit_up": {"rear": {"drives": [{**run, "felt": ["sings"]}]}}})
    with pytest.raises(Refused):
        truck_from({**truck, "fit_up": "none"})


def test_all_faults_between_parts_are_said_at_once(truck: dict[str, Any]) -> None:
    truck["marks"][0]["id"] = "front-hub-left"
    truck["readings"][4]["raised"]["by"] = 3000.0
    truck["readings"][1]["point"] = "moon"
    with pytest.raises(Refused) as refused:
        truck_from(truck)
    assert {"marks[0].id", "readings[4].raised.by", "readings[1].point"} < {f.path for f in refused.value.faults}
    truck["axles"]["front"]["station"] = -5.0  # then nothing can be said against what is raised
    with pytest.raises(Refused) as refused:
        truck_from(truck)
    assert "readings[4].raised.by" not in {fault.path for fault in refused.value.faults}


@pytest.mark.parametrize("text", ["", "[]", "null", '{"format": 1', '{"a": 1, "a": 2}'])
def test_what_is_no_truck_file_is_refused_in_words(text: str) -> None:
    with pytest.raises(Refused) as refused:
        read_truck(text)
    assert all(fault.message for fault in refused.value.faults)


@pytest.mark.parametrize("file", DESIGNS, ids=lambda file: file.stem)
def test_a_design_split_and_resolved_is_the_same_file(file: Any) -> None:
    design = read_design(file.read_bytes())
    truck = first_truck("Truck", design)
    bare, figures = split(design)
    assert "mass" not in bare["vehicle"]
    assert figures["vehicle"]["mass"] == design.vehicle.mass
    assert design_data(resolved(bare, truck)) == design_data(design)
    assert differences(design, truck) == []


@pytest.mark.parametrize("file", TRUCKS, ids=lambda file: file.stem)
def test_the_demo_trucks_are_those_of_their_designs(file: Any) -> None:
    truck = read_truck(file.read_bytes())
    for design in DESIGNS:
        if design.stem.startswith(file.stem.removesuffix("-truck")):
            assert differences(read_design(design.read_bytes()), truck) == []
    assert set(truck.sources.values()) <= {"measured", "catalog", "guessed"}


@pytest.mark.parametrize("name", LAYOUTS)
def test_a_resolved_design_moves_as_the_file_does(name: str) -> None:
    design = layout(name)
    again = resolved(split(design)[0], first_truck("Truck", design))
    assert cycle(again, 3).data() == cycle(design, 3).data()


def test_each_axle_takes_its_own_share_and_tires(truck: dict[str, Any]) -> None:
    truck["axles"]["front"].update(track=1500.0, station=2700.0)
    truck["axles"]["rear"]["station"] = 50.0
    taken = overlays(truck_from(truck))
    rear, front = taken["rear"], taken["front"]
    assert {path: rear[path] for path in rear if path.startswith("vehicle")} == {
        "vehicle.wheelbase": 2650.0, "vehicle.mass": 3100.0, "vehicle.front_share": 0.53, "vehicle.cg_height": 905.0,
        "vehicle.brake_share": 0.38,
    }  # fmt: skip
    assert front["vehicle.brake_share"] == 0.62
    assert (front["axle.track"], rear["axle.track"]) == (1500.0, 1680.0)
    assert rear["bands"] == {"roll_center": [None, 700.0]}
    assert rear["rails"] is None


def other_wheels(data: Any) -> None:
    data["vehicle"].update(wheelbase=2500.0, brake_share=0.3)
    data["axle"].update(tire_width=300.0)


def test_figures_are_taken_from_a_design_one_by_one(truck: dict[str, Any]) -> None:
    base = truck_from(truck)
    design = changed(resolved(split(layout("single apex"))[0], base), other_wheels)
    found = {one.path: (one.truck, one.file) for one in differences(design, base)}
    assert found == {
        "vehicle.wheelbase": (2650.0, 2500.0), "vehicle.brake_share": (0.38, 0.3), "axle.tire_width": (317.5, 300.0),
    }  # fmt: skip
    after = with_figures(base, design, ["vehicle.wheelbase", "vehicle.brake_share"])
    assert (after.axles.front.station, after.axles.rear.station) == (2500.0, 0.0)
    assert after.vehicle.brake_front == 0.7
    assert after.axles.rear.tire_width == 317.5
    assert [one.path for one in differences(design, after)] == ["axle.tire_width"]
    took = with_figures(base, changed(design, lambda data: data["vehicle"].update(mass=9.0)), ["vehicle.mass"])
    assert "vehicle.mass" not in took.sources  # nobody has measured what a file says
    assert [one.path for one in changed_figures(base, after, "rear")] == ["vehicle.wheelbase", "vehicle.brake_share"]


def test_what_a_design_says_nothing_of_is_no_difference(truck: dict[str, Any]) -> None:
    design = resolved(split(layout("single apex"))[0], truck_from(truck))
    silent = design_from({k: v for k, v in design_data(design).items() if k not in ("use", "bands")})
    assert differences(silent, truck_from(truck)) == []


def test_since_says_what_a_truck_did_to_the_figures() -> None:
    before = layout("double triangulated")
    after = changed(before, lambda data: data["vehicle"].update(cg_height=1640.0))
    found = {one.figure: one for one in since(before, after)}
    squat: Any = found["anti_squat"]
    assert squat.after == pytest.approx(squat.before / 2)
    assert "roll_center" not in found
    assert since(before, before) == []
    strict = changed(before, lambda data: data.update(use="strip"))
    judged = {one.figure: (one.was, one.severity) for one in since(before, strict)}
    assert judged["ic_length"] == ("good", "consider")
    rule = {"id": "r", "words": "No link under the floor", "kind": "height", "of": "lower-left.frame", "low": 4000.0}
    bound = changed(before, lambda data: data.update(rules=[rule]))
    (one,) = since(before, bound)
    assert (one.name, one.before, one.was, one.severity) == ("Rule: No link under the floor", None, "good", "stop")
    (gone,) = since(bound, before)
    assert (gone.after, gone.was, gone.severity) == (None, "stop", "good")


def test_since_says_what_weights_did_to_the_springs() -> None:
    before = read_design((DEMO / "fell-tender-rear.json").read_text())
    heavy = changed(before, lambda data: data["vehicle"].update(mass=data["vehicle"]["mass"] * 1.2))
    sits: Any = next(one for one in since(before, heavy) if one.figure == "sits axle")
    assert sits.after != sits.before
    assert "springs" in sits.name.lower() or "sits" in sits.name.lower()
