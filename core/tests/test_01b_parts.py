"""DESCRIBE, by the one table: which points and bodies a design has, what they are called, and what may carry them."""

import json
import shutil
from math import dist
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from designs import changed

from oak_lever.api import Refused, cures, design_data, design_from, mount_names, parts_of, placed
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.design.parts import KINDS, table
from oak_lever.figures.register import AXLE
from oak_lever.motion import compiling
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.coordinates import coordinates, twin_of

SHOCK: dict[str, Any] = {
    "id": "coilover-left", "frame": {"at": [40.0, 430.0, 900.0]}, "axle": {"on": "axle", "at": [-60.0, 470.0, 400.0]},
    "extended": 650.0, "compressed": 420.0, "diameter": 63.5, "spring": {"rate": 35.0, "preload": 25.0, "solid": 270.0},
}  # fmt: skip


def mirror(shock: dict[str, Any]) -> dict[str, Any]:
    other: dict[str, Any] = json.loads(json.dumps(shock).replace("left", "right"))
    for end in ("frame", "axle"):
        other[end]["at"][1] *= -1
    return other


def with_corners(data: Any) -> Any:
    data["corners"] = {"shocks": [SHOCK, mirror(SHOCK)], "stops": [], "straps": []}
    return data


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
    axles = {figure.id for figure in AXLE}
    said = [
        [(c.words, {name: v for name, v in c.figures.items() if name in axles}) for c in cures(d, "roll_center", 5.0)]
        for d in (design, layout("double triangulated"))
    ]
    assert said[0] == said[1]


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


# joint center to joint center, from the coordinates by hand
GALLERY: dict[str, list[float]] = {
    "double triangulated": [993.23, 993.23, 811.6, 811.6],
    "single triangulated": [980.82, 980.82, 811.6, 811.6],
    "single apex": [980.82, 980.82, 828.79, 828.79],
    "three links and panhard": [993.23, 993.23, 710.7, 860.23],
    "parallel and panhard": [980.82, 980.82, 710.07, 710.07, 860.23],
    "parallel and watts on axle": [980.82, 980.82, 710.07, 710.07, 520.0, 520.0],
    "parallel and watts on frame": [980.82, 980.82, 710.07, 710.07, 520.0, 520.0],
    "parallel and slider": [980.82, 980.82, 710.07, 710.07],
    "three links and watts": [993.23, 993.23, 710.7, 520.0, 520.0],
    "radius arms and panhard": [1052.15, 1052.15, 860.23],
}


@pytest.mark.parametrize("name", LAYOUTS)
def test_the_gallery_is_as_it_was_drawn(name: str) -> None:
    design = layout(name)
    lengths = [dist(body.a.at, body.b.at) for body in parts_of(design).bodies if body.shape in ("link", "arm")]
    assert lengths == pytest.approx(GALLERY[name], abs=0.006)
    for spot in parts_of(design).spots:
        assert 250 < spot.at[2] < 700
        assert abs(spot.at[1]) < 560
    axle, vehicle, travel = design.axle, design.vehicle, design.travel
    assert (axle.tire_diameter, axle.tire_radius_loaded, axle.tire_width, axle.track) == (940.0, 450.0, 315.0, 1680.0)
    assert (axle.tube_diameter, axle.mass, axle.pinion.joint, axle.pinion.angle) == (
        89.0,
        230.0,
        (320.0, 0.0, 490.0),
        7.0,
    )
    assert (vehicle.wheelbase, vehicle.mass, vehicle.front_share, vehicle.cg_height) == (2900.0, 2600.0, 0.53, 820.0)
    assert (vehicle.drive_share, vehicle.brake_share) == (1.0, 0.37)
    assert (travel.bump, travel.droop, travel.articulation) == (120.0, 160.0, 10.0)


def put(path: str, value: Any) -> Any:
    def change(data: Any) -> None:
        *way, last = path.split(".")
        for step in way:
            data = data[int(step)] if isinstance(data, list) else data[step]
        data[last] = value

    return change


AT_THE_EDGE = [
    ("axle.pinion.angle", 360.0, 360.1), ("axle.pinion.angle", -360.0, -360.1), ("axle.track", 100_000.0, 100_001.0),
    ("vehicle.mass", 1e6, 1.001e6), ("vehicle.front_share", 1.0, 1.01), ("vehicle.brake_share", 0.0, -0.01),
    ("travel.bump", 0.0, -0.1), ("travel.articulation", 89.9, 90.0), ("name", "x" * 200, "x" * 201),
    ("notes", "x" * 20_000, "x" * 20_001), ("links.0.id", "x" * 200, "x" * 201), ("axle.tire_shoulder", 157.4, 157.5),
    ("links.0.tube", {"wall": 25.4}, {"wall": 25.5}), ("axle.caster", 360, 361),
    ("corners", {"stops": [{"id": "b", "frame": {"at": [0, 1, 2]}, "axle": {"on": "axle", "at": [0, 1, 9]}, "free": 120.0, "solid": 119.9}]},
     {"stops": [{"id": "b", "frame": {"at": [0, 1, 2]}, "axle": {"on": "axle", "at": [0, 1, 9]}, "free": 120.0, "solid": 120.0}]}),
    ("corners", {"straps": [{"id": "b", "frame": {"at": [0, 1, 2]}, "axle": {"on": "axle", "at": [0, 1, 9]}, "length": 1.0, "stretch": 0.0}]},
     {"straps": [{"id": "b", "frame": {"at": [0, 1, 2]}, "axle": {"on": "axle", "at": [0, 1, 9]}, "length": 1.0, "stretch": -0.1}]}),
    ("steering", {"pitman": [1, 2, 3], "knuckle": [1, 2, 4], "kingpin": {"at": [0, 1, 4], "inclination": 89.9}, "lock": 89.9},
     {"pitman": [1, 2, 3], "knuckle": [1, 2, 4], "kingpin": {"at": [0, 0, 4], "inclination": 8}, "lock": 30}),
    ("room", {"keep_outs": [{"id": "a", "on": "axle", "solid": {"kind": "prism", "along": "x", "from": 1.0, "to": 1.1, "outline": [[0, 0], [1, 0], [0, 1]]}}]},
     {"keep_outs": [{"id": "a", "on": "axle", "solid": {"kind": "prism", "along": "x", "from": 1.0, "to": 1.0, "outline": [[0, 0], [1, 0], [0, 1]]}}]}),
    ("room", {"keep_outs": [{"id": "a", "on": "axle", "solid": {"kind": "tube", "path": [[0, 0, 0], [0, 0, 1], [0, 0, 0]], "diameter": 1}}]},
     {"keep_outs": [{"id": "a", "on": "axle", "solid": {"kind": "tube", "path": [[0, 0, 0], [0, 0, 0]], "diameter": 1}}]}),
]  # fmt: skip


@pytest.mark.parametrize(("path", "taken", "refused"), AT_THE_EDGE)
def test_bounds_are_where_they_are_said_to_be(data: dict[str, Any], path: str, taken: Any, refused: Any) -> None:
    put(path, taken)(data)
    design_from(data)
    put(path, refused)(data)
    with pytest.raises(Refused):
        design_from(data)


@pytest.mark.parametrize(("degrees", "fine"), [(4.9, False), (5.1, True)])
def test_a_bent_link_needs_its_frame_bolt_five_degrees_off_its_line(
    data: dict[str, Any], degrees: float, fine: bool
) -> None:
    link = data["links"][0]
    along = np.subtract(link["axle"]["at"], link["frame"]["at"])
    along = along / np.linalg.norm(along)
    across = np.cross(along, [0.0, 0.0, 1.0])
    across = across / np.linalg.norm(across)
    angle = np.radians(degrees)
    link["frame"]["bolt"] = [float(v) for v in 3.0 * (np.cos(angle) * along + np.sin(angle) * across)]
    link["tube"] = BENT
    if fine:
        design_from(data)
    else:
        with pytest.raises(Refused, match="within 5 degrees"):
            design_from(data)
    del link["tube"]
    design_from(data)  # a straight one that carries nothing may have its bolt as it likes


def test_two_points_a_hair_apart_are_two(data: dict[str, Any]) -> None:
    frame = data["links"][0]["frame"]["at"]
    data["links"][0]["axle"]["at"] = [frame[0] + 2e-6, frame[1], frame[2]]
    design_from(data)
    data["links"][0]["axle"]["at"] = [frame[0] + 5e-7, frame[1], frame[2]]
    with pytest.raises(Refused, match="one point"):
        design_from(data)
