"""Brackets as parts of the room: they cover their plates, are held apart from what moves past them, and hit things."""

from typing import Any

import numpy as np
import pytest
from designs import changed
from making import TENDER, bracketed, faces, jointed, many_brackets
from random_designs import random_designs

from oak_lever.api import Design, clearances, cut, findings_on, parts_of
from oak_lever.clearance.parts import Stage, pairs_of
from oak_lever.motion.trace import Plan
from oak_lever.plates.brackets import Plate, bracket_spaces

RNG = np.random.default_rng(41)


def corners_of(plate: Plate) -> Any:
    """Points of a plate's rim, both of its sides, in the chassis at ride."""
    flat = np.array(plate.outline.points(0.01))
    at = plate.origin + flat[:, :1] * plate.u + flat[:, 1:] * plate.v
    half = plate.thickness / 2.0 * np.cross(plate.u, plate.v)
    return np.concatenate([at - half, at + half])


def tube_slice(design: Design, plate: Plate) -> Any:
    """The rim of the axle tube where the plate's middle plane cuts it."""
    across = np.cross(plate.u, plate.v)
    turns = np.linspace(0.0, 2.0 * np.pi, 721)
    r = design.axle.tube_diameter / 2.0
    wall = np.stack([r * np.cos(turns), 0.0 * turns, design.axle.tire_radius_loaded + r * np.sin(turns)], axis=-1)
    wall[:, 1] = ((plate.origin - wall) @ across) / across[1]
    half = plate.thickness / 2.0 * across
    return np.concatenate([wall - half, wall + half])


def bracketed_designs() -> list[Design]:
    found = []
    for design in random_designs(seed=41):
        shaped = jointed(design)
        links = [(n, one.id) for n, one in enumerate(shaped.links) if one.kind != "radius_arm"]
        own = [{"mounts": [f"{name}.axle"], "edge": 24.0} for _, name in links]
        found.append(bracketed(shaped, *own, *(faces(shaped, n, edge=26.0) for n, _ in links)))
    return found


EVERY = bracketed_designs()


@pytest.mark.parametrize("design", EVERY, ids=lambda one: one.name)
def test_a_bracket_takes_up_its_plates_and_the_tube_between_them_and_no_more(design: Design) -> None:
    made = {one.part: one for one in cut(design).plates}
    looked = 0
    for space in bracket_spaces(design):
        for k, points in enumerate(space.plates, 1):
            plate = made.get(f"{space.id}-{k}")
            if plate is None:
                continue
            looked += 1
            rim = corners_of(plate)
            whole = rim if plate.wrap is None else np.concatenate([rim, tube_slice(design, plate)])
            ways = RNG.normal(size=(200, 3))
            for way in ways / np.linalg.norm(ways, axis=1)[:, None]:
                reach = float((points @ way).max())
                assert reach >= float((rim @ way).max()) - 0.02
                assert reach <= float((whole @ way).max()) + 0.35
    assert looked >= 6


def test_what_moves_past_a_bracket_is_held_apart_from_it_and_what_does_not_is_not() -> None:
    design = many_brackets()
    plan = Plan()
    pairs = {frozenset((one.a.name, one.b.name)) for one in pairs_of(Stage(design, plan.poses()))}

    def held(one: str, other: str) -> bool:
        return frozenset((one, other)) in pairs

    # b1, b2: the lower links at the axle; b3 to b6: links at the frame
    assert not held("bracket-b1", "lower-left")
    assert held("bracket-b1", "upper-left")
    assert held("bracket-b1", "lower-right")
    assert not held("bracket-b1", "axle-tube")
    assert not held("bracket-b1", "housing")
    assert held("bracket-b1", "tire-left")
    assert not held("bracket-b1", "bracket-b2")
    assert held("bracket-b1", "bracket-b3")
    assert not held("bracket-b3", "bracket-b4")
    assert held("bracket-b3", "axle-tube")
    assert not held("bracket-b3", "lower-left")
    keep_outs = [one for one in (design.room.keep_outs if design.room else ()) if one.on == "frame"]
    assert keep_outs
    assert all(held("bracket-b1", one.id) and not held("bracket-b3", one.id) for one in keep_outs)


def boxed(design: Design, center: list[float], size: list[float]) -> Design:
    box = {
        "id": "box",
        "name": "Box",
        "on": "frame",
        "gap": 5.0,
        "solid": {"kind": "box", "center": center, "size": size},
    }
    return changed(design, lambda data: data.update(room={"keep_outs": [box]}))


@pytest.mark.parametrize("beside", [2.0, 9.0, 30.0])
def test_a_box_beside_a_plate_is_as_far_from_it_as_it_was_put(beside: float) -> None:
    """Outboard of the outer plate, held on the frame; the bolt lies across, and the axle does not move sideways."""

    def across(data: Any) -> None:
        for link in data["links"]:
            link["axle"]["bolt"] = [0.0, 1.0, 0.0]

    design = bracketed(changed(jointed(TENDER), across), {"mounts": ["lower-left.axle"], "edge": 24.0})
    (space,) = bracket_spaces(design)
    points = np.concatenate(space.plates)
    outer = float(points[:, 1].max())
    x, _, z = next(one for one in parts_of(design).spots if one.name == "lower-left.axle").at
    walled = boxed(design, [x, outer + beside + 20.0, z], [20.0, 40.0, 20.0])
    walled = changed(walled, lambda data: data.update(travel={"bump": 1e-3, "droop": 1e-3, "articulation": 1e-3}))
    found = next(one for one in clearances(walled).pairs if {one.a, one.b} == {"bracket-b1", "box"})
    assert found.gap == pytest.approx(beside, abs=0.02)
    titles = [one.title for one in findings_on(walled) if one.figure == "gap" and "bracket-b1" in one.id]
    assert bool(titles) == (beside < 5.0)
    assert all("Bracket b1 and Box" in one for one in titles)


def test_a_bracket_that_cannot_be_laid_out_is_no_part() -> None:
    design = many_brackets()

    def spoil(data: Any) -> None:
        data["brackets"][0]["mounts"] = ["no-such.axle"]

    assert {one.id for one in bracket_spaces(changed(design, spoil))} == {f"b{n}" for n in range(2, 7)}
    assert bracket_spaces(TENDER) == []
