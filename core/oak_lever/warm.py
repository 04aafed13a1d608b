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
    """The distance of two balls, and of a point from an outline that is not convex, once."""
    from oak_lever.clearance.clearances import Table
    from oak_lever.clearance.parts import Body, Pair, Solid
    from oak_lever.clearance.solids import ball
    from oak_lever.clearance.within import outside
    from oak_lever.design.room import Prism

    still = Body(np.eye(3)[None], np.zeros((1, 3)))
    low, high = (Solid("ball", "keep-out", (((ball((0.0, 0.0, z), 1.0),), still),)) for z in (0.0, 9.0))
    pair = Pair(low, high, 1.0)
    Table(Plan().poses(), [pair]).least([pair], np.zeros(1, dtype=np.int64))
    arrow = ((0.0, 0.0), (9.0, 9.0), (0.0, 4.0), (-9.0, 9.0))
    prism = Prism.model_validate({"kind": "prism", "along": "y", "from": 0.0, "to": 1.0, "outline": arrow})
    outside(prism, np.array([[0.0, 0.0, 9.0]]))


if __name__ == "__main__":
    warm()
