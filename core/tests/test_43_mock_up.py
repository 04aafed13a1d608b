"""The mock-up's solids: closed, turned outward, of the volume that they should have, read back by another library."""

from collections import Counter
from math import pi
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed
from ezdxf.addons import meshex
from making import fitting_brackets, many_brackets

from oak_lever.api import cut, read_design
from oak_lever.clearance.hull import hull_faces
from oak_lever.cut_sheet.mock_up import drum, mock_up_stl, plate_faces, stl_of

TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())


def volume(faces: Any) -> float:
    """By the divergence theorem: above 0 where faces are turned outward."""
    return float(np.einsum("ni,ni->n", faces[:, 0], np.cross(faces[:, 1], faces[:, 2])).sum() / 6.0)


def faces_of(read: Any) -> Any:
    return np.array([[tuple(read.vertices[n]) for n in face] for face in read.faces])


def assert_closed(faces: Any) -> None:
    """Each edge is there once each way."""
    names: dict[tuple[float, ...], int] = {}
    corners = [[names.setdefault(tuple(np.round(at, 6)), len(names)) for at in face] for face in faces]
    edges = Counter((face[n], face[n - 2]) for face in corners for n in range(3))
    assert all(edges[b, a] == count == 1 for (a, b), count in edges.items())


@pytest.mark.parametrize("seed", range(4))
def test_a_bar_and_a_hull_are_closed_and_as_large_as_they_are(seed: int) -> None:
    rng = np.random.default_rng(seed)
    one, other = rng.uniform(-300.0, 300.0, (2, 3))
    bar = drum(one, other, 25.0)
    assert_closed(bar)
    assert volume(bar) == pytest.approx(pi * 625.0 * np.linalg.norm(other - one), rel=0.02)
    half = rng.uniform(10.0, 100.0, 3)
    corners = np.array([[x, y, z] for x in (-1, 1) for y in (-1, 1) for z in (-1, 1)]) * half + one
    inside = one + rng.uniform(-0.9, 0.9, (40, 3)) * half
    points = np.concatenate([inside, corners])
    box = points[np.array(hull_faces(points))]
    assert_closed(box)
    assert volume(box) == pytest.approx(8.0 * half.prod())


def test_plates_are_closed_and_of_their_area_times_their_thickness() -> None:
    plates = [plate for _, plate, _ in fitting_brackets(43)[:8]]
    assert len(plates) == 8
    for plate in plates:
        faces = plate_faces(plate)
        assert_closed(faces)
        # holes are drawn by corners on their rims, and so a little small
        rims = sum(pi * d**2 / 4.0 * 0.012 for *_, d in plate.holes)
        assert volume(faces) / plate.thickness == pytest.approx(plate.area + rims, rel=2e-3)


def test_all_of_a_design_is_in_it_and_other_programs_read_it() -> None:
    design = many_brackets()
    bare = changed(design, lambda data: data.update(brackets=None))
    whole, less = (meshex.stl_loadb(mock_up_stl(one)) for one in (design, bare))
    assert mock_up_stl(design) == mock_up_stl(design)
    plates = cut(design).plates
    more = volume(faces_of(whole)) - volume(faces_of(less))
    assert more == pytest.approx(sum(volume(plate_faces(plate)) for plate in plates), rel=1e-3)
    points = np.array([tuple(at) for at in whole.vertices])
    radius, half = design.axle.tire_diameter / 2.0, design.axle.track / 2.0
    low, high = points.min(axis=0), points.max(axis=0)
    assert high[1] >= half + design.axle.tire_width / 2.0 - 1.0
    assert low[2] <= design.axle.tire_radius_loaded - radius + 6.0
    frames = [link.frame.at for link in design.links if link.kind != "radius_arm"]
    assert all((low <= np.array(at)).all() and (np.array(at) <= high).all() for at in frames)


def test_a_face_without_an_area_is_left_out() -> None:
    face = [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [0.0, 1.0, 0.0]]
    flat = [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [2.0, 0.0, 0.0]]
    read = stl_of(np.array([face, flat]))
    assert len(read) == 84 + 50
    assert tuple(np.frombuffer(read[84:96], "<f4")) == (0.0, 0.0, 1.0)
