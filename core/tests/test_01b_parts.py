"""DESCRIBE, by the one table: which points and bodies a design has, what they are called, and what may carry them."""

import json
import shutil
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from designs import changed

from oak_lever.api import Refused, cures, design_data, design_from, mount_names, parts_of, placed
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.design.parts import KINDS, table
from oak_lever.motion import compiling
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.coordinates import coordinates, twin_of

SHOCK = {
    "id": "coilover-left", "frame": {"at": [40.0, 430.0, 900.0]}, "axle": {"on": "axle", "at": [-60.0, 470.0, 400.0]},
    "extended": 650.0, "compressed": 420.0, "diameter": 63.5, "spring": {"rate": 35.0, "preload": 25.0, "solid": 270.0},
}  # fmt: skip


def mirror(shock: dict[str, Any]) -> dict[str, Any]:
    other: dict[str, Any] = json.loads(json.dumps(shock).replace("left", "right"))
    for end in ("frame", "axle"):
        other[end]["at"][1] *= -1
    return other


def with_corners(data: Any) -> None:
    data["corners"] = {"shocks": [SHOCK, mirror(SHOCK)], "stops": [], "straps": []}


def test_names_bodies_and_joints_of_a_watts_link_are_the_same_everywhere() -> None:
    design = layout("parallel and watts on axle")
    parts = parts_of(design)
    names = [spot.name for spot in parts.spots]
    assert names[-3:] == ["watts.pivot", "watts-left.frame", "watts-right.frame"]
    assert parts.spot("watts.left").name == "watts-left.frame"  # as older files call it
    assert {body.id: body.words for body in parts.bodies}["watts-left"] == "left rod of the Watts link"
    joints = {end.name for body in parts.bodies for end in (body.a, body.b)}
    from oak_lever.figures.joints import joint_names

    assert set(joint_names(mechanism_of(design))) <= joints
    other = [spot.name for spot in parts_of(layout("parallel and watts on frame")).spots]
    assert other[-3:] == ["watts.pivot", "watts-left.axle", "watts-right.axle"]


def test_locks_under_older_names_still_hold() -> None:
    design = changed(layout("parallel and watts on axle"), lambda data: data.update(locks={"watts.left": "xyz"}))
    assert not any("watts-left.frame" in coordinate.mounts for coordinate in coordinates(design))


@pytest.mark.parametrize("name", LAYOUTS)
def test_every_points_path_leads_to_it(name: str) -> None:
    design = layout(name)
    data = design_data(design)
    for spot in parts_of(design).spots:
        value: Any = data
        for step in spot.path:
            value = value[step]
        assert tuple(value) == spot.at


@pytest.mark.parametrize("name", LAYOUTS)
def test_bars_have_the_lengths_of_their_ends(name: str) -> None:
    mechanism = mechanism_of(layout(name))
    ends = mechanism.ends
    for row, bar in enumerate(mechanism.layout.bars):
        body = next(body for body in parts_of(layout(name)).bodies if body.id == bar.name)
        np.testing.assert_allclose([ends[0][0, row], ends[1][0, row]], [body.a.at, body.b.at], atol=1e-12)


def test_a_tube_in_the_file_is_drawn_as_it_says() -> None:
    def thick(data: Any) -> None:
        data["links"][0]["tube"] = {"diameter": 63.5, "wall": 9.5}

    sizes = {body.id: body.diameter for body in parts_of(changed(layout("double triangulated"), thick)).bodies}
    assert sizes == {"lower-left": 63.5, "lower-right": 50.8, "upper-left": 50.8, "upper-right": 50.8}


def test_a_shock_eye_is_a_point_like_any_mount_and_moves_no_figure() -> None:
    design = changed(layout("double triangulated"), with_corners)
    parts = parts_of(design)
    eye = parts.spot("coilover-left.frame")
    assert (eye.words, eye.on, eye.holds) == ("frame eye", "frame", False)
    twin = twin_of(eye, parts.spots)
    assert twin is not None
    assert twin.name == "coilover-right.frame"
    assert mount_names(design) == mount_names(layout("double triangulated"))
    assert not any("coilover" in mount for coordinate in coordinates(design) for mount in coordinate.mounts)
    moved = placed(design, {"coilover-left.frame": (1.0, 2.0, 903.0)})
    assert moved.corners is not None
    assert moved.corners.shocks[0].frame.at == (1.0, 2.0, 903.0)
    assert cures(design, "roll_center", 5.0) == cures(layout("double triangulated"), "roll_center", 5.0)


def test_the_table_is_plain_data() -> None:
    assert json.loads(json.dumps(table()))[0]["key"] == "lower"
    assert len({(kind.where, kind.key) for kind in KINDS}) == len(KINDS)


BENT = {"diameter": 50.8, "wall": 6.35, "bends": [[300.0, 480.0, 380.0]]}
REFUSED: list[tuple[Any, str]] = [
    (lambda d: d["links"][0].update(tube={"diameter": 50.0, "wall": 26.0}), "links[0].tube"),
    (lambda d: d["links"][0].update(tube={"diameter": -1}), "links[0].tube.diameter"),
    (lambda d: (d["links"][0].update(tube=BENT), d["links"][0]["frame"].update(bolt=[980, -150, 60])), "links[0]"),
    (lambda d: d.update(corners={"shocks": [{**SHOCK, "compressed": 650.0}]}), "corners.shocks[0]"),
    (lambda d: d.update(corners={"shocks": [{**SHOCK, "axle": {"on": "moon", "at": [0, 0, 0]}}]}), "corners.shocks[0].axle.on"),
    (lambda d: d.update(corners={"shocks": [{**SHOCK, "axle": {"on": "axle", "at": SHOCK["frame"]["at"]}}]}), "corners.shocks[0]"),
    (lambda d: d.update(corners={"shocks": [SHOCK, SHOCK]}), "corners.shocks[1].id"),
    (lambda d: d.update(corners={"shocks": [{**SHOCK, "id": "lower-left"}]}), "corners.shocks[0].id"),
    (lambda d: d.update(corners={"shocks": [{**SHOCK, "id": "tire-left"}]}), "corners.shocks[0].id"),
    (lambda d: d.update(corners={"shocks": [{**SHOCK, "id": "panhard"}]}), "corners.shocks[0].id"),
    (lambda d: (d["links"][0].update(id="axle"), with_corners(d)), "links[0].id"),
    (lambda d: (d["axle"].update(tire_width=1700.0), with_corners(d)), "axle.track"),
    (lambda d: d.update(room={"gap": -1}), "room.gap"),
    (lambda d: d.update(room={"keep_outs": [{"id": "tank", "on": "frame", "solid": {"kind": "ball"}}]}), "room.keep_outs[0].solid.kind"),
    (lambda d: d.update(room={"zones": [{"id": "a", "region": {"kind": "holes", "at": [[0, 0, 0]]}}] * 2}), "room.zones[1].id"),
    (lambda d: d.update(steering={"pitman": [1, 2, 3], "knuckle": [1, 2, 3], "kingpin": {"at": [0, 700, 400], "inclination": 8}, "lock": 30}), "steering"),
    (lambda d: d.update(driveshaft={"kind": "chain"}), "driveshaft.kind"),
    (lambda d: d["axle"].update(tire_shoulder=200.0), "axle"),
]  # fmt: skip


@pytest.mark.parametrize(("spoil", "path"), REFUSED)
def test_faults_of_what_is_more_than_links(data: dict[str, Any], spoil: Any, path: str) -> None:
    spoil(data)
    with pytest.raises(Refused) as refused:
        design_from(data)
    assert path in [fault.path for fault in refused.value.faults]


def test_a_radius_arm_and_a_watts_link_have_straight_tubes() -> None:
    for name, part in (("radius arms and panhard", "links"), ("parallel and watts on axle", "lateral")):
        data = design_data(layout(name))
        (data[part][0] if part == "links" else data[part])["tube"] = BENT
        with pytest.raises(Refused, match="straight"):
            design_from(data)


def test_a_name_of_the_axle_is_free_to_a_link_in_a_file_with_links_only(data: dict[str, Any]) -> None:
    data["links"][0]["id"] = "axle"
    assert design_from(data).links[0].id == "axle"


def test_a_rich_file_comes_back_as_it_was(data: dict[str, Any]) -> None:
    with_corners(data)
    data["links"][0]["tube"] = BENT
    data["room"] = {
        "gap": 12.7, "except": [["lower-left", "axle-tube"]],
        "keep_outs": [{"id": "tank", "name": "Fuel tank", "on": "frame", "gap": 25.0, "except": [], "note": "full",
                       "solid": {"kind": "prism", "along": "x", "from": -900.0, "to": -400.0, "outline": [[0, 500], [300, 500], [0, 800]]}}],
        "zones": [{"id": "rack", "name": "", "mounts": ["lower-left.axle"], "region": {"kind": "holes", "at": [[-25.0, 508.0, 406.0]]}}],
    }  # fmt: skip
    data["driveshaft"] = {
        "kind": "two_joints", "case": {"joint": [1200.0, 0.0, 560.0], "angle": 3.0}, "diameter": 76.2,
        "slip": {"in": 40.0, "out": 50.0}, "joint_limit": {"pinion": 25.0, "case": 25.0},
    }  # fmt: skip
    assert json.loads(json.dumps(design_data(design_from(data)))) == data


def test_compiled_code_is_kept_by_all_that_it_depends_on(tmp_path: Path) -> None:
    copies = [Path(shutil.copy(path, tmp_path / f"{n}{path.name}")) for n, path in enumerate(compiling.SOURCES)]
    assert any(path.name.endswith("tolerances.py") for path in copies)
    assert sum("kernel" in str(path.parent) for path in compiling.SOURCES) > 4
    before = compiling.key_of(copies, "1")
    assert compiling.key_of(copies, "1") == before
    assert compiling.key_of(copies, "2") != before
    for path in copies:
        text = path.read_text()
        path.write_text(text + "\n# changed\n")
        assert compiling.key_of(copies, "1") != before
        path.write_text(text)
    assert compiling.key_of(copies, "1") == before
