"""Materials by their names, and what is taken where none is said."""

from oak_lever.design.faults import Fault, Refused
from oak_lever.design.loads import Material
from oak_lever.design.types import Design

HOUSE_MATERIAL = Material.model_validate(
    {"name": "Seamless mild steel", "yield": 350.0, "modulus": 205_000.0, "density": 7850.0}
)
"""What is taken of a tube that no one has said anything of: a guess, a textbook's figure for cold drawn seamless."""


def entry_of(design: Design, name: str | None, path: str) -> Material:
    """A material by its name; the house's where none is said.

    Raises:
        Refused: at that path, for an entry that the design has not.
    """
    if name is None:
        return HOUSE_MATERIAL
    found = (design.materials or {}).get(name)
    if found is None:
        raise Refused([Fault(path, f'no material is called "{name}"')])
    return found
