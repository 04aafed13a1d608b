"""The driveshaft between the transfer case and the pinion: its length, its joints' angles, how unsteadily it drives."""

import numpy as np

from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import rotations

_TURN = 720
"""Steps of half a turn of the output, over which the pinion's lead repeats."""


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
    out = np.array([-ahead * np.cos(np.radians(shaft.case.angle)), 0.0, -np.sin(np.radians(shaft.case.angle))])
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
    across = np.linalg.norm(np.cross(a, b), axis=-1)
    out: Floats = np.degrees(np.arctan2(across, (a * b).sum(axis=-1)))
    return out


def _lead(out: Floats | None, along: Floats, pinion: Floats) -> Floats:
    """(P,) degrees peak to peak that the pinion leads and lags over a turn of a steady output, yokes in phase.

    A yoke arm u turns square to the output; the shaft's arm is v = u x s, the pinion's w = v x (-p); without `out` the
    shaft itself is steady, and v turns about it.
    """
    turned = np.linspace(0.0, np.pi, _TURN + 1)
    drive = along if out is None else out
    one, two = _square(drive)
    arm = np.cos(turned)[:, None, None] * one + np.sin(turned)[:, None, None] * two
    if out is not None:
        arm = np.cross(arm, along)
    arm = np.cross(arm, pinion)
    first, second = _square(pinion)
    with np.errstate(invalid="ignore"):
        angle = np.arctan2((arm * second).sum(axis=-1), (arm * first).sum(axis=-1))
    ahead = np.unwrap(angle, axis=0) - turned[:, None]
    lead: Floats = np.degrees(_peak(ahead) + _peak(-ahead))
    return lead


def _peak(values: Floats) -> Floats:
    """(P,) the greatest of values (T, P) that repeat, by the parabola through the greatest and its neighbors."""
    loop = values[:-1]
    top = loop.argmax(axis=0)
    here = np.arange(loop.shape[1])
    before, at, after = (loop[(top + n) % len(loop), here] for n in (-1, 0, 1))
    bend = 2.0 * at - before - after
    with np.errstate(invalid="ignore", divide="ignore"):
        more = np.where(bend > 0.0, (after - before) ** 2 / (8.0 * bend), 0.0)
    out: Floats = at + more
    return out


def _square(axis: Floats) -> tuple[Floats, Floats]:
    """Two unit directions (P, 3) square to axes and each other, right-handed about them."""
    aside = np.where(np.abs(axis[:, 1:2]) < 0.9, [[0.0, 1.0, 0.0]], [[1.0, 0.0, 0.0]])
    one = aside - (aside * axis).sum(axis=-1, keepdims=True) * axis
    one = one / np.linalg.norm(one, axis=-1, keepdims=True)
    return one, np.cross(axis, one)
