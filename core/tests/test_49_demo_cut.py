"""The demo's designs that go to the shop: every bracket stands, every bolt comes out, nothing stops them."""

import pytest
from designs import DEMO

from oak_lever.api import Design, Stock, cut, findings_on, read_design
from oak_lever.clearance.bolts import bolt_rooms
from oak_lever.design.parts import parts_of
from oak_lever.figures.register.kinds import BOLT_ROOM_MM

FILES = {"fell-tender-rear": (8, 7), "ghyll-special-rear": (10, 0)}
_NO_BRACKET = {"watts.pivot"}


def read(file: str) -> Design:
    return read_design((DEMO / "bracketed" / f"{file}.json").read_text())


@pytest.mark.parametrize("file", FILES)
def test_every_mount_has_its_bracket_and_every_bar_its_length(file: str) -> None:
    design = read(file)
    found = cut(design)
    assert found.faults == ()
    assert (len(found.brackets), len(found.truss)) == FILES[file]
    held = {mount for one in found.brackets for mount in one.mounts}
    own = {spot.name for spot in parts_of(design).spots if spot.holds and "shock" not in spot.kind}
    assert held == own - _NO_BRACKET
    assert all(bar.cut_length for bar in found.bars)
    assert not any(bar.guessed for bar in found.bars)


@pytest.mark.parametrize("file", FILES)
def test_nothing_stops_it_and_every_bolt_has_room(file: str) -> None:
    design = read(file)
    assert [one.title for one in findings_on(design) if one.severity == "stop"] == []
    rooms = bolt_rooms(design)
    assert len(rooms) == len(cut(design).brackets)
    assert all(one.free >= BOLT_ROOM_MM for one in rooms)


@pytest.mark.parametrize("file", FILES)
def test_all_of_it_comes_out_of_common_stock(file: str) -> None:
    design = read(file)
    sizes = {(link.tube.diameter, link.tube.wall) for link in design.links if link.kind != "radius_arm" and link.tube}
    lateral = getattr(design.lateral, "tube", None)
    sizes |= {(lateral.diameter, lateral.wall)} if lateral else set()
    thick = {plate.thickness for plate in cut(design).plates}
    stock = Stock.model_validate({
        "tubes": [{"diameter": d, "wall": w, "length": 6096.0, "count": 2} for d, w in sizes],
        "plates": [{"thickness": t, "size": [1219.2, 609.6], "count": 2} for t in thick],
    })  # fmt: skip
    nest = cut(design, stock).nest
    assert nest is not None
    assert nest.left_over == ()
    assert sum(len(sheet.parts) for sheet in nest.plates) == len(cut(design).plates)
