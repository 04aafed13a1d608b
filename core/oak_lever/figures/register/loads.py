"""How many times over the load of its worst case brings a part to its end, and whether that can be known."""

from oak_lever.figures.register.kinds import Figure, Judgment, Own, every

WANTED, WANTED_ABUSED = 2.0, 1.25
"""Load factors that are wanted in normal cases, and in abuse and on a rock: house values."""


def _load(id_: str, name: str, meaning: str, why: str, wanted: float = WANTED) -> Figure:
    return Figure(
        id_, name, "", "ratio", Own("load"), meaning, "member", row=False,
        verdict=Judgment(
            "fix", every(wanted, None), why_low=why,
            disagrees=(
                "Those who know the forces of their own use, and say them as cases, want less over them; those who "
                "sell the truck on want more."
            ),
        ),
        breaks=1.0, area="loads",
    )  # fmt: skip


LOADS: tuple[Figure, ...] = (
    _load(
        "load_tube", "Load factor of the tube",
        "How many times over the load of its worst case makes the tube yield or buckle.",
        "The tube comes nearer to staying bent than is wanted, or past it.",
    ),
    _load(
        "load_rock", "Load factor of the tube on a rock",
        "How many times over half the axle's weight, dropped on a rock at the middle of the link, makes it yield.",
        "Dropped on a rock the link stays bent, or comes nearer to it than is wanted.", WANTED_ABUSED,
    ),
    _load(
        "load_joint", "Load factor of the joint",
        "How many times over the load of its worst case reaches the joint's rating across its bolt.",
        "The joint carries more of its rating than is wanted, or more than all of it.",
    ),
    _load(
        "load_bolt", "Load factor of the bolt",
        "How many times over the load of its worst case makes the joint's bolt yield in shear.",
        "The bolt comes nearer to yielding in shear than is wanted, or past it.",
    ),
    _load(
        "load_shank", "Load factor of the threaded shank",
        "How many times over the load of its worst case makes the joint's shank yield at the root of its thread, "
        "screwed out as far as it may be.",
        "The shank comes nearer to yielding at its thread than is wanted, or past it.",
    ),
    _load(
        "load_plate", "Load factor of the bracket's plates",
        "How many times over the load of its worst case makes the bracket's plates yield at a hole: under the bolt, to "
        "the nearest edge, or beside the hole.",
        "The plates come nearer to yielding at a hole than is wanted, or past it.",
    ),
    _load(
        "load_weld", "Load factor of the bracket's weld",
        "How many times over the load of its worst case brings the weld at the bracket's foot to what this shop's "
        "welds hold.",
        "The weld comes nearer to its end than is wanted, or past it.",
    ),
    Figure(
        "load_unknown", "Strength that is not known", "", "ratio", None,
        "What of the joints, bolts and load cases could not be held against a load: nobody has said what they are.",
        row=False, verdict=Judgment(
            "consider", every(None, None),
            disagrees="Nobody: what is not looked at may be sound, or may not.",
            to_look_up=(
                "A joint's rating is put in with its other figures, at its mount or at Cycle, Joints; a bolt at Cut "
                "sheet, Bolts."
            ),
        ),
        area="loads",
    ),
)  # fmt: skip
