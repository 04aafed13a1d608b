"""What joints of the common kinds can do: how far they turn and give, and what is taken of one that nobody named."""

from oak_lever.design.loads import JointKind
from oak_lever.design.types import Design

JOINTS: dict[str, JointKind] = {
    "spherical_spaced": JointKind(name="Spherical rod end with misalignment spacers", limit=28.0, give=0.0),
    "spherical": JointKind(name="Spherical rod end, plain", limit=14.0, give=0.0),
    "rebuildable": JointKind(name="Rebuildable spherical end in plastic races", limit=18.0, give=0.3),
    "bushed": JointKind(name="Rubber bushed end", limit=12.0, give=2.0),
}
"""The generic catalog: common sizes, no maker's; check your maker's figure. A design's own entries go first."""

UNSAID = JointKind(name="not said", limit=28.0, give=2.0)
"""What is taken of a joint that no one has said anything of: the most a spherical end turns and the most a bushed one
gives. It is a guess, and is said to be one."""

UNSAID_WORDS = f"it is a guess that they turn {UNSAID.limit:g} degrees and give {UNSAID.give:g} mm each"
"""That guess, in words."""


def joint_kind(design: Design, entry: str | None) -> JointKind:
    """What a joint of that entry can do; `UNSAID` for none, or for one that no catalog has."""
    return (design.joints or {}).get(entry or "") or JOINTS.get(entry or "", UNSAID)
