"""Every file that goes to the shop, by its name."""

import re

from oak_lever.cut_sheet.cut import Cut
from oak_lever.cut_sheet.lists import parts_csv
from oak_lever.cut_sheet.plate_dxf import plate_dxf
from oak_lever.cut_sheet.templates import cope_svg, templates_pdf
from oak_lever.design.loads import Sleeve
from oak_lever.design.types import Design
from oak_lever.sheet.page import Paper


def files_of(design: Design, cut: Cut, paper: Paper = "a4") -> dict[str, bytes]:
    """The files: a drawing of each plate that is not cut like another, patterns, copes, and the list. The same design
    gives the same bytes."""
    found: dict[str, bytes] = {}
    for plate in cut.plates:
        if plate.same_as is None:
            put_file(found, plate.part, "dxf", plate_dxf(plate).encode())
    found["templates.pdf"] = templates_pdf(cut.plates, paper, f"{design.name}: templates")
    for bar in cut.bars:
        for end, entry in zip(("axle", "frame"), bar.ends, strict=True):
            kind = (design.joints or {}).get(entry or "")
            if kind is not None and isinstance(kind.end, Sleeve):
                drawn = cope_svg(bar.id, end, bar.tube.diameter, kind.end.outside)
                put_file(found, f"cope-{bar.id}-{end}", "svg", drawn.encode())
    found["parts.csv"] = parts_csv(design, cut).encode()
    return found


def put_file(files: dict[str, bytes], name: str, ending: str, what: bytes) -> None:
    """Under a name that every disk takes, and that no other file has."""
    plain = re.sub(r"[^A-Za-z0-9._-]+", "_", name).strip(".") or "part"
    tries = (f"{plain[:100]}{f'_{n}' if n else ''}.{ending}" for n in range(len(files) + 1))
    files[next(one for one in tries if one.lower() not in {key.lower() for key in files})] = what
