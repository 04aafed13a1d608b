"""Where brackets are marked out, against closed forms and against the plates' own outlines."""

from math import acos, atan2, cos, degrees, dist, hypot, radians, sin
from typing import Any

import numpy as np
import pytest
from designs import changed
from making import TENDER, jointed
from random_designs import random_designs

from oak_lever.api import Design, mark_out, parts_of
from oak_lever.design.parts import across

RADIUS = TENDER.axle.tube_diameter / 2.0
LINE = TENDER.axle.tire_radius_loaded


def bracketed(design: Design, bolt: tuple[float, float, float] = (0.0, 1.0, 0.0), **more: Any) -> Design:
    """A bracket on the tube at the lower left link's axle end, and one on a level face under its frame end."""

    def change(data: Any) -> None:
        for link in data["links"]:
            for end in ("axle", "frame"):
                link[end]["bolt"] = list(bolt)
        lower = next(link for link in data["links"] if link["id"] == "lower-left")
        low = lower["frame"]["at"]
        data["axle"] |= {"wheel_faces": 1500.0, "housing_left": 180.0, "housing_right": 240.0}
        data["brackets"] = [
            {"id": "b1", "mounts": ["lower-left.axle"], "base": {"kind": "tube"}, "plate": 6.35, "edge": 25.4,
             "washer": 1.0, "shrink": 0.8, **more},
            {"id": "b2", "mounts": ["lower-left.frame"], "base": {"kind": "face", "at": [0.0, 0.0, low[2] + 60.0],
             "normal": [0.0, 0.0, -1.0]}, "plate": 5.0, "edge": 25.4, "foot": 110.0},
        ]  # fmt: skip

    return changed(jointed(design), change)


def test_a_saddle_s_tips_are_where_the_outer_tangents_touch_the_tube() -> None:
    """Circles of radius r (the tube) and e about a hole at distance D: an outer tangent touches the tube acos((r - e)/D)
    either side of the line of centers."""
    found = mark_out(bracketed(TENDER)).brackets[0]
    x, y, z = next(spot.at for spot in parts_of(TENDER).spots if spot.name == "lower-left.axle")
    far, clock = hypot(x, z - LINE), degrees(atan2(x, z - LINE))
    assert found.off == pytest.approx(far)
    assert found.hole.clock == pytest.approx(clock)
    half = degrees(acos((RADIUS - 25.4) / far))
    for plate, way in zip(found.plates, (-1.0, 1.0), strict=True):
        clocks = sorted(((one.clock or 0.0) - clock + 180.0) % 360.0 - 180.0 for one in plate.ends)
        assert clocks == pytest.approx([-half, half], abs=1e-6)
        for one in plate.ends:
            inside = y + way * found.spacer / 2.0
            assert one.at[1] == pytest.approx(inside)
            assert one.wheel == pytest.approx(750.0 - inside)
            assert one.housing == pytest.approx(inside - 180.0)
            assert hypot(one.at[0], one.at[2] - LINE) == pytest.approx(RADIUS)
        assert plate.ends[0].at[0] >= plate.ends[1].at[0]
    assert found.width == pytest.approx(50.0)
    assert found.spacer == pytest.approx(52.8)


def test_a_foot_on_a_face_stands_either_side_of_its_hole() -> None:
    found = mark_out(bracketed(TENDER)).brackets[1]
    x, y, z = next(spot.at for spot in parts_of(TENDER).spots if spot.name == "lower-left.frame")
    assert found.on == "face"
    assert found.off == pytest.approx(60.0)
    assert TENDER.rails is not None
    for plate, way in zip(found.plates, (-1.0, 1.0), strict=True):
        for one, along in zip(plate.ends, (55.0, -55.0), strict=True):
            assert one.at == pytest.approx((x + along, y + way * found.spacer / 2.0, z + 60.0))
            assert (one.clock, one.wheel, one.housing) == (None, None, None)
            assert one.under == pytest.approx(z + 60.0 - TENDER.rails.underside)


@pytest.mark.parametrize("turned", [-25.0, 10.0, 40.0])
def test_with_a_bolt_that_stands_askew_the_tips_lie_in_the_plates_and_on_the_tube(turned: float) -> None:
    way = (sin(radians(turned)), cos(radians(turned)), 0.05)
    design = bracketed(TENDER, bolt=way)
    bolt = np.array(way) / np.linalg.norm(way)
    center = np.array(next(spot.at for spot in parts_of(design).spots if spot.name == "lower-left.axle"))
    found = mark_out(design).brackets[0]
    for plate, sign in zip(found.plates, (-1.0, 1.0), strict=True):
        for one in plate.ends:
            at = np.array(one.at)
            assert float((at - center) @ bolt) == pytest.approx(sign * found.spacer / 2.0, abs=1e-9)
            middle = at + sign * 6.35 / 2.0 * bolt
            assert hypot(middle[0], middle[2] - LINE) == pytest.approx(RADIUS, abs=1e-9)


@pytest.mark.parametrize("design", random_designs(seed=37), ids=lambda one: one.name)
def test_jigs_and_diagonals_are_the_distances_of_the_holes(design: Design) -> None:
    found = mark_out(design)
    at = {spot.name: spot.at for spot in parts_of(design).spots}
    for one in (*found.axle, *found.frame, *found.square):
        assert one.apart == pytest.approx(dist(at[one.a], at[one.b]))
    held = [spot for spot in parts_of(design).spots if spot.holds]
    for on, listed in (("axle", found.axle), ("frame", found.frame)):
        many = sum(spot.on == on for spot in held)
        assert len(listed) == many * (many - 1) // 2
    pairs = across(design)
    for one, other in zip(found.square[::2], found.square[1::2], strict=True):
        assert pairs[one.a.partition(".")[0]] == other.a.partition(".")[0]
        mirrored = all(
            at[name][1] == pytest.approx(-at[image][1]) and at[name][::2] == pytest.approx(at[image][::2])
            for name, image in ((one.a, other.a), (one.b, other.b))
        )
        if mirrored:
            assert one.apart == pytest.approx(other.apart)


def test_what_can_not_be_made_is_said_and_the_rest_is_marked() -> None:
    def narrow(data: Any) -> None:
        data["brackets"][0]["edge"] = 2.0

    found = mark_out(changed(bracketed(TENDER), narrow))
    assert [one.id for one in found.brackets] == ["b2"]
    assert [fault.path for fault in found.faults] == ["brackets[0].edge"]
    assert mark_out(TENDER).brackets == ()


def test_where_nothing_is_said_of_faces_nothing_is_measured_from_them() -> None:
    def bare(data: Any) -> None:
        del data["axle"]["wheel_faces"], data["axle"]["housing_left"]

    found = mark_out(changed(bracketed(TENDER), bare)).brackets[0]
    assert all(one.wheel is None and one.housing is None for plate in found.plates for one in plate.ends)
