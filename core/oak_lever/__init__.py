"""Oak Lever's core: the design file, the axle's motion, its figures and their judgment.

Millimeters, kilograms, newtons and degrees throughout; axes and signs are drawn in docs/frames.md.
The one public door is :mod:`oak_lever.api`.
"""
