"""What can be asked of the core, by area: a file each. A new area is its file and its line here."""

from builds.questions import added, corners, cycle, fit_up, links, making, room, sheets, truck, weigh_up
from builds.questions.asking import ENDPOINTS, JOBS, LONG

__all__ = [
    "ENDPOINTS",
    "JOBS",
    "LONG",
    "added",
    "corners",
    "cycle",
    "fit_up",
    "links",
    "making",
    "room",
    "sheets",
    "truck",
    "weigh_up",
]
