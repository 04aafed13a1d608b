"""Compile the kernels ahead of their first use: ``python -m oak_lever.warm``."""

import numpy as np

from oak_lever.design.parts import DISTANCE
from oak_lever.motion.mechanism import Layout, Mechanism, Row
from oak_lever.motion.trace import Plan, trace


def warm() -> None:
    """Trace one pose of a small linkage, and ascend once; all layouts run the same compiled code."""
    from oak_lever.motion.kernel.linear import ascend

    mounts = np.array([[[0.0, 500.0, 400.0], [900.0, 400.0, 450.0]]])
    layout = Layout(("a", "b"), (Row("link", DISTANCE, 0, 1),), (), None)
    plan = Plan()
    plan.heave(np.array([1.0]))
    trace(Mechanism(layout, mounts, np.array([450.0]), np.zeros(1), np.zeros(1)), plan.poses())
    _measure()
    ascend(np.eye(1), np.zeros(1), np.ones(1), 1, 1.0, np.empty(1))


def _measure() -> None:
    """The distance of two points, and of a point from a box, once."""
    from oak_lever.clear.kernel import least
    from oak_lever.clear.within import outside
    from oak_lever.design.room import Box

    points, whole = np.array([[0.0, 0.0, 0.0], [0.0, 0.0, 9.0]]), np.arange(2)
    still, nowhere = np.tile(np.eye(3), (1, 1, 1, 1)), np.zeros((1, 1, 3))
    three, four = np.zeros(3), np.zeros((4, 3))
    least(
        whole * 0, whole, whole * 0 + 1, np.zeros((2, 2)), np.zeros(2), whole * 0, points, still, nowhere,
        np.zeros(1, dtype=np.int64), np.ones(1, dtype=np.int64), whole[None], np.zeros((1, 3)), 0.01,
        np.zeros(1, dtype=np.int64), four, four.copy(), four.copy(), np.zeros(4), three, np.zeros(2), three.copy(),
        three.copy(), np.zeros(1), np.zeros(1), np.zeros(1, dtype=np.int64), four[:1].copy(), four[:1].copy(),
    )  # fmt: skip
    outside(Box(kind="box", center=(0.0, 0.0, 0.0), size=(1.0, 1.0, 1.0)), np.array([[0.0, 0.0, 9.0]]))


if __name__ == "__main__":
    warm()
