"""What can be asked of the core, by area: a file each. A new area is its file and its line here."""

from builds.questions import corners, cycle, links, room, sheets, truck
from builds.questions.asking import ENDPOINTS, JOBS

__all__ = ["ENDPOINTS", "JOBS", "corners", "cycle", "links", "room", "sheets", "truck"]
