"""What must be held, moved or rerouted before an axle comes out: the steps of that work, and what a strip-down mostly
asks for."""

from oak_lever.truck.types import Job, Truck
from oak_lever.units import Units, weight

STEPS = (
    "Lifting it", "Stripping", "Cutting", "Tacking brackets", "Cycling the axle", "Welding", "Back on its wheels",
)  # fmt: skip
"""The steps of the work that a job can stand before, in their order."""
STANDS = 4
RATED = 1.5
"""A stand is chosen to carry so many times its share of the truck: it is pushed and pried at. A house value."""


def stand_rating(truck: Truck) -> float:
    """What each stand must be rated for with all of the truck on four of them, kg."""
    return RATED * truck.vehicle.mass / STANDS


def typical_jobs(truck: Truck, units: Units) -> list[Job]:
    """What a strip-down mostly asks for, under ids that no job has: to be gone through at the truck."""
    rated = weight(stand_rating(truck), units)
    taken = {job.id for job in truck.jobs}
    free = (name for n in range(len(taken) + 1, 2 * len(taken) + 2 + len(_TYPICAL)) if (name := f"j{n}") not in taken)
    stands = (f"Stands, each rated for {rated} or more", "under the frame, clear of where mounts will go", STEPS[0])
    every = ((*stands, STANDS), *_TYPICAL)
    return [
        Job(id=name, what=what, where=where, before=before, count=count)
        for name, (what, where, before, count) in zip(free, every, strict=False)
    ]


_TYPICAL = (
    ("Chocks", "at the wheels that stay on the ground", "Lifting it", 2),
    ("Driveshaft held up before its last bolt is out", "at the axle being stripped", "Stripping", 1),
    ("Springs let down with a jack under the axle, not from under them", "at the axle being stripped", "Stripping", 1),
    ("Brake hoses and hard lines off the axle, ends capped", "axle to frame", "Stripping", 1),
    ("Parking brake cables", "axle to frame", "Stripping", 1),
    ("Axle breather, led higher", "on the housing", "Cycling the axle", 1),
    ("Wiring and sensors off the axle", "axle to frame", "Stripping", 1),
    ("Fuel lines and tank out or shielded; nothing is cut or welded near fuel", "where brackets go", "Cutting", 1),
    ("Battery off, before anything is welded", "at the battery", "Tacking brackets", 1),
    ("Exhaust moved out of the way of links", "where it crosses them", "Cycling the axle", 1),
    ("Brake hoses long enough for full droop and twist", "frame to axle", "Back on its wheels", 1),
)  # fmt: skip
