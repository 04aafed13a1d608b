"""Compile the motion kernel ahead of its first use: ``python -m oak_lever.motion.warm``."""

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
    ascend(np.eye(1), np.zeros(1), np.ones(1), 1, 1.0, np.empty(1))


if __name__ == "__main__":
    warm()
