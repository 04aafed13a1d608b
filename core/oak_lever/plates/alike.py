"""Whether two plates are cut alike: one equals the other turned, or turned over and turned."""

from typing import TYPE_CHECKING

import numpy as np

from oak_lever.motion.mechanism import Floats

if TYPE_CHECKING:
    from oak_lever.plates.brackets import Plate

ALIKE_MM = 0.05
_OFF_MM = 0.002
_LEVER_MM = 5.0


def alike(one: "Plate", other: "Plate") -> bool:
    """Of one thickness and material, with holes and outline within 0.05 mm, whichever side is up."""
    if (one.thickness, one.material, len(one.holes)) != (other.thickness, other.material, len(other.holes)):
        return False
    corners = [np.array(plate.outline.points(_OFF_MM)) for plate in (one, other)]
    around = float(np.linalg.norm(np.diff(corners[0], axis=0), axis=1).sum())
    if abs(one.area - other.area) > around * ALIKE_MM:
        return False
    a, b = (_about_middle(plate, at) for plate, at in zip((one, other), corners, strict=True))
    return any(_lies_on(a, (b[0] * side, b[1] * side)) for side in (np.array([1.0, 1.0]), np.array([-1.0, 1.0])))


Shape = tuple[Floats, Floats]
"""(N, 2) corners of the outline and (H, 2) holes about the outline's centroid."""


def _about_middle(plate: "Plate", corners: Floats) -> Shape:
    x, y = corners[:, 0], corners[:, 1]
    cross = x * np.roll(y, -1) - np.roll(x, -1) * y
    middle = np.array([((x + np.roll(x, -1)) * cross).sum(), ((y + np.roll(y, -1)) * cross).sum()]) / (
        3.0 * cross.sum()
    )
    return corners - middle, np.array([hole[:2] for hole in plate.holes]).reshape(-1, 2) - middle


def _lies_on(a: Shape, b: Shape) -> bool:
    """Whether some turn about the middle lays one on the other: the turns that lay a hole on a hole, or where there is
    none but at the middle, the outline's farthest corner on each corner as far out."""
    out = np.linalg.norm(a[1], axis=1)
    if len(out) and out.max() > _LEVER_MM:
        start, goals = a[1][int(out.argmax())], b[1]
    else:
        start = a[0][int(np.linalg.norm(a[0], axis=1).argmax())]
        out = np.linalg.norm(b[0], axis=1)
        goals = b[0][out > out.max() - 2.0 * ALIKE_MM]
    for goal in goals:
        if abs(np.linalg.norm(goal) - np.linalg.norm(start)) > 2.0 * ALIKE_MM:
            continue
        turn = np.arctan2(goal[1], goal[0]) - np.arctan2(start[1], start[0])
        c, s = np.cos(turn), np.sin(turn)
        back = np.array([[c, s], [-s, c]])  # rows turned by `turn`
        if _holes_match(a[1] @ back, b[1]) and _near(a[0] @ back, b[0]) and _near(b[0], a[0] @ back):
            return True
    return False


def _holes_match(one: Floats, other: Floats) -> bool:
    if not len(one):
        return True
    apart = np.linalg.norm(one[:, None] - other, axis=-1)
    return bool((apart.min(axis=1) <= ALIKE_MM).all() and (apart.min(axis=0) <= ALIKE_MM).all())


def _near(one: Floats, other: Floats) -> bool:
    """Whether every corner of one lies within 0.05 mm of the other's outline."""
    a, way = other, np.roll(other, -1, axis=0) - other
    span = one[:, None] - a
    s = np.clip((span * way).sum(-1) / np.maximum((way * way).sum(-1), 1e-30), 0.0, 1.0)
    off = np.linalg.norm(span - s[..., None] * way, axis=-1).min(axis=1)
    return bool((off <= ALIKE_MM).all())
