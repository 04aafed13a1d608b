"""Forces in the links under a load on the axle."""

import numpy as np

from oak_lever.motion.freedom import held, ride_state
from oak_lever.motion.mechanism import Floats, Mechanism


def side_load(mechanism: Mechanism) -> tuple[tuple[str, ...], Floats]:
    """The bars' names, and the force (B, D) in each at ride, per unit of side force at the tires' contact patches;
    unsigned.

    Virtual work of the axle with travel and articulation held by the springs: J' f = (0, 1, 0, 0), since a patch
    below the axle's center moves sideways only with it. An arm counts with the resultant of its two rows; where there
    are more rows than freedoms the forces are those of links of equal stiffness (least squares).
    """
    names = [row.name for row in mechanism.layout.rows]
    derivatives = held(mechanism, ride_state(mechanism)).derivatives
    force = np.linalg.pinv(derivatives.swapaxes(-1, -2))[:, :, 1]
    bars = tuple(dict.fromkeys(names))
    squares = np.zeros((len(bars), len(force)))
    for row, name in enumerate(names):
        squares[bars.index(name)] += force[:, row] ** 2
    return bars, np.sqrt(squares)
