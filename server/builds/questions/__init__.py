"""What can be asked of the core, by area: a file each. A new area is its file and its line here."""

from builds.questions import added, corners, cycle, links, room, sheets, truck
from builds.questions.asking import ENDPOINTS, JOBS

__all__ = ["ENDPOINTS", "JOBS", "added", "corners", "cycle", "links", "room", "sheets", "truck"]
