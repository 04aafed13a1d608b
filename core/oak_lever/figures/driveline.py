"""The driveshaft between the transfer case and the pinion: its length, its joints' angles, how unsteadily it drives."""

import numpy as np

from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import rotations
from oak_lever.motion.vectors import cross


def driveline(design: Design, state: Floats) -> dict[str, Floats]:
    """(P,) each, with the axle at `state` (P, 7): `shaft_length` mm, `shaft_slip` mm (+ is drawn out from ride),
    `case_joint` and `pinion_joint` degrees, `shaft_unsteady` degrees peak to peak, NaN where a joint stands at 90
    degrees or more."""
    shaft, axle = design.driveshaft, design.axle
    assert shaft is not None
    turn = rotations(state)
    center = np.array([0.0, 0.0, axle.tire_radius_loaded])
    case, rest = np.array(shaft.case.joint), np.array(axle.pinion.joint)
    span = state[:, :3] + turn @ (rest - center) - case
    long = np.linalg.norm(span, axis=-1)
    ahead = 1.0 if axle.end == "rear" else -1.0
    down, aside = np.radians(shaft.case.angle), np.radians(shaft.case.turn)
    out = np.array([-ahead * np.cos(down) * np.cos(aside), np.cos(down) * np.sin(aside), -np.sin(down)])
    nose = np.array([ahead * np.cos(np.radians(axle.pinion.angle)), 0.0, np.sin(np.radians(axle.pinion.angle))])
    along, pinion = span / long[:, None], -(turn @ nose)
    at_case, at_pinion = _between(np.broadcast_to(out, along.shape), along), _between(along, pinion)
    if shaft.kind == "two_joints":
        lead = _lead(np.broadcast_to(out, along.shape), along, pinion)
    else:
        lead = _lead(None, along, pinion)
    return {
        "shaft_length": long,
        "shaft_slip": long - np.linalg.norm(rest - case),
        "case_joint": at_case,
        "pinion_joint": at_pinion,
        "shaft_unsteady": np.where((at_case < 90.0) & (at_pinion < 90.0), lead, np.nan),
    }


def _between(a: Floats, b: Floats) -> Floats:
    """The angles between unit directions (P, 3), degrees; exact near 0 too."""
    across = np.linalg.norm(cross(a, b), axis=-1)
    out: Floats = np.degrees(np.arctan2(across, (a * b).sum(axis=-1)))
    return out


def _lead(out: Floats | None, along: Floats, pinion: Floats) -> Floats:
    """(P,) degrees peak to peak that the pinion leads and lags over a turn of a steady output, yokes in phase.

    A yoke arm u turns square to the output; the shaft's arm is v = u x s, the pinion's w = v x (-p); without `out` the
    shaft itself is steady, and v turns about it.

    w is linear in the arm that turns steadily, so in the planes of the two
    it is a turn, a stretch by the map's singular values, and a turn: it leads by atan(k tan a) - a, k their ratio,
    which is greatest at atan((1 - k) / (2 sqrt(k))), as a single joint of cosine k.
    """
    drive = along if out is None else out
    arms = _square(drive)
    if out is not None:
        arms = (cross(arms[0], along), cross(arms[1], along))
    first, second = _square(pinion)
    turned = [cross(arm, pinion) for arm in arms]
    plane = np.stack([[(arm * axis).sum(axis=-1) for arm in turned] for axis in (first, second)])
    size, area = (plane**2).sum(axis=(0, 1)), np.abs(plane[0, 0] * plane[1, 1] - plane[0, 1] * plane[1, 0])
    spread = np.sqrt(np.maximum(size**2 - 4.0 * area**2, 0.0))
    with np.errstate(invalid="ignore", divide="ignore"):
        ratio = np.sqrt((size - spread) / (size + spread))
        lead: Floats = 2.0 * np.degrees(np.arctan((1.0 - ratio) / (2.0 * np.sqrt(ratio))))
    return lead


def _square(axis: Floats) -> tuple[Floats, Floats]:
    """Two unit directions (P, 3) square to axes and each other, right-handed about them."""
    aside = np.where(np.abs(axis[:, 1:2]) < 0.9, [[0.0, 1.0, 0.0]], [[1.0, 0.0, 0.0]])
    one = aside - (aside * axis).sum(axis=-1, keepdims=True) * axis
    one = one / np.linalg.norm(one, axis=-1, keepdims=True)
    return one, cross(axis, one)
