"""Forces in the links under a load on the axle."""

import numpy as np

from oak_lever.motion.freedom import held, ride_state
from oak_lever.motion.mechanism import Mechanism


def side_load(mechanism: Mechanism) -> dict[str, float]:
    """Force in each bar at ride, by name, per unit of side force at the tires' contact patches; unsigned.

    Virtual work of the axle with travel and articulation held by the springs: J' f = (0, 1, 0, 0), since a patch
    below the axle's center moves sideways only with it. An arm counts with the resultant of its two rows; where there
    are more rows than freedoms the forces are those of links of equal stiffness (least squares).
    """
    layout = mechanism.layout
    load = np.zeros(layout.unknowns)
    load[1] = 1.0
    force = np.linalg.lstsq(held(mechanism, ride_state(mechanism)).derivatives.T, load, rcond=None)[0]
    found: dict[str, float] = {}
    for row, value in zip(layout.rows, force.tolist(), strict=True):
        found[row.name] = float(np.hypot(found.get(row.name, 0.0), value))
    return found
