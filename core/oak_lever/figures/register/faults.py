"""What is there or not: a fault of the axle as its links hold it, a mount out of its zone, two parts too near."""

from oak_lever.figures.register.kinds import BOLT_ROOM_MM, Figure, Judgment, Own, Unit, every


def _fault(id_: str, name: str, meaning: str, unit: Unit = "mm") -> Figure:
    verdict = Judgment("stop", every(None, None), disagrees="Nobody.")
    return Figure(id_, name, "", unit, None, meaning, row=False, verdict=verdict)


FAULTS: tuple[Figure, ...] = (
    _fault("loose", "Axle loose", "The links leave the axle free to move some way that they should hold."),
    _fault("no_travel", "No travel at all", "The links go together at ride and in no other pose.", "mm"),
    _fault("short_droop", "Stops short of full droop", "The links run out on the way down.", "mm"),
    _fault("short_bump", "Stops short of full bump", "The links run out on the way up.", "mm"),
    _fault("short_right", "Stops short of full right wheel up", "The links run out as the axle twists.", "deg"),
    _fault("short_left", "Stops short of full left wheel up", "The links run out as the axle twists.", "deg"),
    _fault(
        "short_together", "Stops short of full travel and articulation together",
        "Each is reached alone, and not both at once.", "deg",
    ),
    Figure(
        "zone", "Out of its zone", "", "mm", None,
        "How far a mount stands from the places that were said to be there.", "mount", row=False,
        verdict=Judgment(
            "fix", every(None, 0.0),
            why_high=(
                "There is nothing there to bolt or weld it to, by what was said of the places that there are."
            ),
            disagrees="Nobody: move the mount, or the zone if there is room after all.",
        ),
        area="room",
    ),
    Figure(
        "gap", "Gap between parts", "", "mm", Own("gap"),
        (
            "How far two parts stay apart, anywhere in travel and articulation that stops and straps allow; below 0 "
            "they are so far in each other."
        ),
        "pair", row=False,
        verdict=Judgment(
            "fix", every(None, None),
            why_low="They come nearer than is wanted of what moves, or one is in the other.",
            disagrees="Nobody where they meet; some run closer where nothing gives and nothing is in rubber.",
        ),
        breaks=0.0, area="room",
    ),
    Figure(
        "bolt_room", "Room for bolt and wrench", "", "mm", Own("gap"),
        (
            "What is free at ride around a socket at both ends of a bracket's bolt, and around the bolt as it is drawn "
            "out at one of them; 0 where something stands there."
        ),
        "mount", row=False,
        verdict=Judgment(
            "fix", every(BOLT_ROOM_MM, None),
            why_low="The bolt is not got in or out there, or no socket goes on its head or its nut.",
            disagrees="Whoever puts that bolt in before the part that is in its way, and never needs it out again.",
        ),
        area="room",
    ),
    Figure(
        "rule", "Rule that binds", "", "mm", Own("rule"),
        "A limit of a class's book, of law or of an insurer, as this truck's list has it.", "rule", row=False,
        verdict=Judgment(
            "stop", every(None, None),
            disagrees="Whoever enforces it decides; what is built is as it reads there, not as it is liked.",
        ),
        breaks=0.0,
    ),
    Figure(
        "rule_place", "Rule that binds where mounts stand", "", "mm", Own("rule"),
        "A limit, as this truck's list has it, of the distance between two mounts or of a mount's height.", "rule",
        row=False,
        verdict=Judgment(
            "stop", every(None, None),
            disagrees="Whoever enforces it decides; what is built is as it reads there, not as it is liked.",
        ),
        breaks=0.0,
    ),
    Figure(
        "rule_unread", "Rule that nobody has looked at", "", "mm", None,
        "A rule that a person must look at, or that this axle has nothing to be held against.", "rule", row=False,
        verdict=Judgment(
            "consider", every(None, None),
            disagrees="Whoever enforces it decides.",
            to_look_up="Rules are kept, and marked as checked, at Truck.",
        ),
    ),
)  # fmt: skip
