"""What brackets carry, against welds reckoned as springs under a rigid plate, and stresses at that many times the load."""

from itertools import product
from typing import Any

import numpy as np
import pytest
from designs import changed
from making import TENDER, bracketed, faces, jointed, many_brackets
from random_designs import random_designs

from oak_lever.api import Design, bracket_loads, cures, cut, design_from, findings_on, parts_of, reckoned
from oak_lever.plates.brackets import brackets_made, foot_of
from oak_lever.strength.judged import PartLoads
from oak_lever.strength.loads import Carried

YIELD, SHEAR, WELD = 350.0, 0.577, 0.7


def bracketed_anyhow(seed: int) -> list[Design]:
    """Random designs with a bracket at each link's ends, those on the frame under a face."""
    found = []
    for design in random_designs(seed=seed):
        shaped = jointed(design)
        links = [one.id for one in shaped.links if one.kind != "radius_arm"]
        tubes = [{"mounts": [f"{name}.axle"], "edge": 24.0} for name in links]
        under = [faces(shaped, n, edge=26.0) for n, one in enumerate(shaped.links) if one.kind != "radius_arm"]
        found.append(bracketed(shaped, *tubes, *under))
    return found


EVERY = bracketed_anyhow(40)


def force_on(design: Design, case: Carried, name: str) -> Any:
    """What a link's joint puts on what holds it in a case, in the axes at ride."""
    part, _, end = name.rpartition(".")
    push = next(one for one in case.pushes if (one.part, one.on) == (part, end))
    force = np.array(push.force)
    assert case.turn is not None
    return case.turn.T @ force if end == "axle" else force


def elastic(foot: Any, across: Any, plate: float, throat: float, at: Any, force: Any) -> float:
    """The greatest stress along two fillets on either side of a plate that is rigid on them, each a bed of springs: its
    movement (three ways, three turns) is the one whose tractions balance the force at a place."""
    one, other = foot
    way = (other - one) / np.linalg.norm(other - one)
    long = float(np.linalg.norm(other - one))
    middle = (one + other) / 2.0
    many = 401
    along = np.linspace(-0.5, 0.5, many) * long
    weight = np.full(many, long / (many - 1))
    weight[[0, -1]] /= 2.0
    places = np.concatenate([along[:, None] * way + side * plate / 2.0 * across for side in (-1.0, 1.0)])
    weights = np.concatenate([weight, weight]) * throat
    # traction at r: a + w x r; balance of forces and of moments about the middle
    skew = np.array([[[0, r[2], -r[1]], [-r[2], 0, r[0]], [r[1], -r[0], 0]] for r in places])
    give = np.concatenate([np.tile(np.eye(3), (len(places), 1, 1)), skew], axis=2)
    stiff = np.einsum("n,nij,nik->jk", weights, give, give)
    load = np.concatenate([force, np.cross(at - middle, force)])
    move = np.linalg.lstsq(stiff, load, rcond=None)[0]
    tractions = give @ move
    assert np.allclose(np.einsum("n,nij,j->i", weights, give.transpose(0, 2, 1) @ give, move), load, atol=1e-3)
    return float(np.linalg.norm(tractions, axis=1).max())


def worst_by_hand(design: Design, part: PartLoads) -> dict[str, float]:
    """Each factor of a bracket, least over the cases of what it is over what is wanted, worked out anew."""
    drawn = next(one for one in design.brackets or () if one.id == part.part)
    made = next(one for one in brackets_made(design)[0] if one.id == part.part)
    least: dict[str, tuple[float, float]] = {}
    for case in reckoned(design).cases:
        wanted = 1.25 if case.case.abuse else 2.0
        force = force_on(design, case, drawn.mounts[0])
        across = np.cross(made.plates[0].u, made.plates[0].v)
        flat = force - (force @ across) * across
        pulled = float(np.linalg.norm(flat))
        hole = made.bolt + 0.4
        each = {
            "bearing": YIELD / (pulled / 2.0 / (drawn.plate * made.bolt)),
            "tearing": SHEAR * YIELD / (pulled / 4.0 / (drawn.plate * (drawn.edge - hole / 2.0))),
            "net": YIELD / (pulled / 2.0 / (drawn.plate * (2.0 * drawn.edge - hole))),
        }
        for what, factor in each.items():
            if what not in least or (factor >= 1.0, factor / wanted) < (
                least[what][0] >= 1.0,
                least[what][0] / least[what][1],
            ):
                least[what] = (factor, wanted)
    return {what: factor for what, (factor, _) in least.items()}


@pytest.mark.parametrize("design", EVERY, ids=lambda one: one.name)
def test_plates_yield_at_that_many_times_the_load(design: Design) -> None:
    found = bracket_loads(design, reckoned(design))
    assert len(found) == len(brackets_made(design)[0])
    for part in found:
        factors = {one.what: one.factor for one in part.factors}
        hand = worst_by_hand(design, part)
        assert {what: factors[what] for what in hand} == pytest.approx(hand)


def test_enough_brackets_are_made() -> None:
    assert sum(len(brackets_made(design)[0]) for design in EVERY) >= 12


@pytest.mark.parametrize("design", EVERY, ids=lambda one: one.name)
def test_a_weld_is_never_said_to_hold_more_than_a_rigid_plate_on_it_finds_and_not_much_less(design: Design) -> None:
    found = {one.part: one for one in bracket_loads(design, reckoned(design))}
    for made in brackets_made(design)[0]:
        drawn = next(one for one in design.brackets or () if one.id == made.id)
        weld = next(one for one in found[made.id].factors if one.what == "weld")
        case = next(one for one in reckoned(design, weld.case).cases)
        force = force_on(design, case, drawn.mounts[0]) / 2.0
        worst = 0.0
        for plate in made.plates:
            across = np.cross(plate.u, plate.v)
            place = np.array(next(one for one in parts_of(design).spots if one.name == drawn.mounts[0]).at)
            # half of the force acts in the plate's own plane, beside the mount
            at = place - ((place - plate.origin) @ across) * across
            foot = [plate.origin + u * plate.u + v * plate.v for u, v in foot_of(plate, drawn.base)]
            worst = max(worst, elastic(foot, across, drawn.plate, 0.707 * drawn.plate, at, force))
        assert weld.factor is not None
        assert weld.factor * worst / (SHEAR * YIELD * WELD) == pytest.approx(0.9, abs=0.11)


def straight(**more: Any) -> Design:
    """A bracket right under a flat face, its one link's bolt square to it."""
    return bracketed(jointed(TENDER), faces(jointed(TENDER), 0, **more))


def factors_of(design: Design, n: int) -> dict[str, float]:
    """Of its n-th bracket."""
    factors = bracket_loads(design, reckoned(design))[n].factors
    return {one.what: one.factor for one in factors if one.factor is not None}


def test_what_is_said_of_a_weld_and_of_steel_counts() -> None:
    base = straight()
    own = factors_of(base, 0)

    def of(change: Any) -> dict[str, float]:
        return factors_of(changed(base, change), 0)

    narrow = of(lambda data: data["brackets"][0].update(weld=3.175))
    assert narrow["weld"] == pytest.approx(own["weld"] / 2.0)
    assert narrow["bearing"] == pytest.approx(own["bearing"])
    better = of(lambda data: data.update(loads={"weld": 0.9}))
    assert better["weld"] == pytest.approx(own["weld"] * 0.9 / 0.7)
    hard = {"hard": {"name": "Hard", "yield": 700.0, "modulus": 205000.0, "density": 7850.0}}
    steel = of(lambda data: (data.update(materials=hard), data["brackets"][0].update(material="hard")))
    assert steel == pytest.approx({what: 2.0 * factor for what, factor in own.items()})


def test_a_hole_beside_another_has_less_metal() -> None:
    x, y, z = jointed(TENDER).links[0].frame.at
    base = straight(edge=30.0)
    beside = straight(edge=30.0, holes=[[x, y, z - 25.0]])
    factors = [factors_of(base, 0), factors_of(beside, 0)]
    hole = 12.7 + 0.4
    metal = 25.0 - hole / 2.0
    # the bolt is square to the link in plan and level, so a hole right below lies in the plates' plane
    assert factors[1]["net"] / factors[0]["net"] == pytest.approx((2 * metal - hole) / (2 * 30.0 - hole))
    assert factors[1]["tearing"] / factors[0]["tearing"] == pytest.approx((metal - hole / 2) / (30.0 - hole / 2))


WEAK = changed(many_brackets(), lambda data: data.update(loads={"weld": 0.5}))
"""Brackets of a shop whose welds hold half of the plate."""


def test_mirrored_brackets_of_a_mirrored_design_fare_alike_and_are_one_finding() -> None:
    design = WEAK
    rated = {one.part: {f.what: f.factor for f in one.factors} for one in bracket_loads(design, reckoned(design))}
    assert rated["b1"] == pytest.approx(rated["b2"])
    found = [one for one in findings_on(design) if one.figure == "load_weld" and "b1" in one.id]
    assert [one.id for one in found] == ["load_weld b1"]
    assert "and its mirror image" in found[0].title
    assert "house" in found[0].guessed
    assert not [one for one in findings_on(design) if one.id == "load_weld b2"]


def test_every_cure_of_a_bracket_can_be_made_and_mends_it() -> None:
    design, offered, kinds = WEAK, 0, set[str]()
    for one in findings_on(design):
        if one.figure not in ("load_weld", "load_plate"):
            continue
        for cure in cures(design, one.id, 1.0, "mm", 5):
            offered += 1
            then = design_from(cure.document)
            assert not cut(then).faults
            assert not [now for now in findings_on(then) if now.id == one.id], cure.words
            (what,) = {"plate", "foot", "edge"} & {
                name for new, old in zip(then.brackets or (), design.brackets or (), strict=True)
                for name in ("plate", "foot", "edge") if getattr(new, name) != getattr(old, name)
            }  # fmt: skip
            kinds.add(what)
            if what == "foot":
                new, old = next((n, o) for n, o in zip(then.brackets or (), design.brackets or (), strict=True) if n.foot != o.foot)  # fmt: skip
                assert new.foot is not None
                assert old.foot is not None
                assert f"{new.foot - old.foot:.0f} mm longer" in cure.words or f"{new.foot - old.foot:.1f} mm longer" in cure.words  # fmt: skip
    assert offered >= 4
    assert kinds >= {"plate", "foot"}


def test_a_bracket_that_cannot_be_made_is_no_load_and_hides_none() -> None:
    design = many_brackets()

    def spoil(data: Any) -> None:
        data["brackets"][0]["edge"] = 3.0

    then = changed(design, spoil)
    assert {one.part for one in bracket_loads(then, reckoned(then))} == {f"b{n}" for n in range(2, 7)}


def test_brackets_of_a_mirrored_design_carry_the_same() -> None:
    for design, name in product(EVERY[:2], ("bearing", "weld")):
        mirrored = changed(design, _over)
        one, other = (
            {p.part: next(f.factor for f in p.factors if f.what == name) for p in bracket_loads(d, reckoned(d))}
            for d in (design, mirrored)
        )
        assert one == pytest.approx(other, rel=1e-6)
        assert one


def _over(data: Any) -> None:
    """Its mirror image left for right, under the names that it had."""

    def flip(value: Any) -> Any:
        if isinstance(value, dict):
            return {key: flip(one) for key, one in value.items()}
        if isinstance(value, list) and len(value) == 3 and all(isinstance(v, int | float) for v in value):
            return [value[0], -value[1], value[2]]
        return [flip(one) for one in value] if isinstance(value, list) else value

    (data.get("corners") or {}).pop("anti_roll", None)  # it is given by its left side, whichever way the axle is turned
    for key in ("links", "lateral", "brackets", "axle", "corners", "driveshaft"):
        if data.get(key):
            data[key] = flip(data[key])
