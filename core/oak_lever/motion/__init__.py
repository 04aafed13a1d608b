"""MOVE: constraints, the pose they give, its motion there; arrays over designs and poses."""
