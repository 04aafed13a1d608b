"""The kernel: from constraint rows to poses and their motions, one design and one pose at a time.

Plain loops over scalars, so that it compiles to straight machine code (see `motion.compiling`); nothing is
allocated inside the loops. Angles are radians, lengths mm.

The axle's state is q = (x, y, z, roll, pitch, yaw, crank): the axle's center in the chassis frame, the
turns in R = Rz(yaw) Ry(pitch) Rx(roll), and the bell crank's turn. A pose is asked for by travel and articulation,
which fix z = radius + travel and, from sin(articulation) = (R e_y).e_z = cos(pitch) sin(roll), the roll. What is
left are the unknowns u = (x, y, pitch, yaw, crank).

As many rows as unknowns: Newton's method on the errors. More rows: Newton's method on the gradient of
half their sum of squares, second derivatives of the rows included, since where there is give the pose's own
derivative needs them. Both leave du/dtravel and du/darticulation behind as further right-hand sides of the
same elimination, by the implicit function theorem.
"""

from oak_lever.motion.kernel.run import trace
from oak_lever.motion.kernel.state import room

__all__ = ["room", "trace"]
