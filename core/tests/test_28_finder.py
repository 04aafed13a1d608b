"""What the finder shows stands all demands when it is judged anew; where it shows nothing, what it says of that is so."""

import json
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed, run

from oak_lever.api import (
    Demands,
    Design,
    Refused,
    TubesAtHand,
    clearances,
    cut,
    design_from,
    find,
    findings_on,
    parts_of,
    read_design,
    read_stock,
)
from oak_lever.clearance.zones import left_zones
from oak_lever.cycle import sweep_many
from oak_lever.judge.check import FIX
from oak_lever.judge.judged import judge
from oak_lever.judge.verdicts import verdicts_on
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.move.coordinates import spots
from oak_lever.weigh_up.finder import APART_MM, Search

TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())
GHYLL = read_design((DEMO / "ghyll-special-rear.json").read_text())
TRIES = 7000


def zoned(data: Any) -> None:
    """The tender's links alone, every mount in a box of its own about where it stands; its lower axle ends
    locked fore and aft."""
    for gone in ("corners", "driveshaft"):
        data[gone] = None
    room = data["room"]
    names = [f"{link['id']}.{end}" for link in data["links"] for end in ("axle", "frame")]
    at = {f"{link['id']}.{end}": link[end]["at"] for link in data["links"] for end in ("axle", "frame")}
    room["zones"] = [
        {"id": f"zone-{n}", "name": "", "mounts": [name], "region": {"kind": "box", "center": at[name], "size": [220.0, 160.0, 160.0]}}
        for n, name in enumerate(names)
    ]  # fmt: skip
    data["locks"] = {"lower-left.axle": "x", "lower-right.axle": "x"}
    data["bands"] = {"pinion_change": [None, 6.0]}  # without stops and straps it goes through all that is asked for


TIGHT = changed(TENDER, zoned)


@pytest.fixture(scope="module")
def tight() -> Search:
    *_, last = find(TIGHT, 600.0, 1, Demands(longest=1150.0, shortest=400.0), TRIES)
    return last


def grave(design: Design) -> list[str]:
    """Stops and fixes of the axle's own figures, and of what comes too near to what."""
    verdicts = verdicts_on(design)
    own = [one.id for one, _ in verdicts.listed if one.figure.of in ("design", "mount") and one.grave >= FIX]
    return own + [one.id for one in findings_on(design) if one.figure == "gap"]


def test_every_find_stands_all_demands_judged_anew(tight: Search) -> None:
    assert len(tight.found) >= 2
    here = {spot.name: np.array(spot.at) for spot in spots(TIGHT)}
    for one in tight.found:
        design = design_from(one.document)
        assert grave(design) == []
        assert list(left_zones(design)) == []
        assert all(gap.gap >= gap.wanted - 1e-6 for gap in clearances(design).pairs)
        now = {spot.name: np.array(spot.at) for spot in spots(design)}
        assert {name for name in now if np.abs(now[name] - here[name]).max() > 1e-9} == set(one.at)
        assert all(now[name] == pytest.approx(at) for name, at in one.at.items())
        for name, at in now.items():
            steps = (at - here[name]) / (25.4 / 16.0)
            assert steps == pytest.approx(np.round(steps), abs=1e-3)
            left, right = name.replace("right", "left"), name.replace("left", "right")
            assert now[left] == pytest.approx(now[right] * [1.0, -1.0, 1.0])
        assert now["lower-left.axle"][0] == pytest.approx(here["lower-left.axle"][0])
        for link in design.links:
            long = np.linalg.norm(now[f"{link.id}.axle"] - now[f"{link.id}.frame"])
            assert 400.0 <= long <= 1150.0
        considers = {one.title for one in findings_on(design) if one.severity == "consider"}
        assert set(one.considers) <= considers


def test_finds_differ_by_what_a_shop_would_call_another_place(tight: Search) -> None:
    here = {spot.name: spot.at for spot in spots(TIGHT)}
    for n, one in enumerate(tight.found):
        for other in tight.found[:n]:
            apart = max(np.linalg.norm(np.subtract(one.at.get(k, at), other.at.get(k, at))) for k, at in here.items())
            assert apart >= APART_MM


def test_what_is_left_is_what_the_band_leaves_after_each_mount_is_off_by_the_tapes_error(tight: Search) -> None:
    """Slopes by moving each pair by itself and judging the whole cycle anew."""
    one = tight.found[0]
    design = design_from(one.document)
    judged = judge(sweep_many(design, mechanism_of(design)))
    row = judged.figures.index("anti_squat")
    value, low, high = (float(of[row, 0]) for of in (judged.value, judged.low, judged.high))
    squares = 0.0
    for left in [spot for spot in spots(design) if spot.at[1] > 0.0]:
        right = left.name.replace("left", "right")
        for axis in range(3):
            ends = []
            for way in (1.0, -1.0):
                mechanism = mechanism_of(design)
                mounts = mechanism.mounts.copy()
                for name, by in ((left.name, 1.0), (right, -1.0 if axis == 1 else 1.0)):
                    mounts[0, mechanism.layout.mounts.index(name), axis] += way * by * 1.5875
                moved = judge(sweep_many(design, mechanism.with_mounts(mounts)))
                ends.append(float(moved.value[row, 0]))
            squares += ((ends[0] - ends[1]) / 2.0) ** 2
    left_over = (min(high - value, value - low) - np.sqrt(squares)) / ((high - low) / 2.0)
    assert one.left["anti_squat"] == pytest.approx(min(left_over, 1.0), abs=0.02)
    assert one.reserve == min(one.left.values())
    assert one.left[one.tightest] == one.reserve


def test_what_one_gives_up_another_has(tight: Search) -> None:
    assert any(one.gives_up for one in tight.found)
    for one in tight.found:
        for up in one.gives_up:
            other = tight.found[up.of]
            assert other.left[up.figure] > one.left[up.figure]
            assert (one.figures[up.figure], other.figures[up.figure]) == (up.value, up.other)


def test_the_same_seed_finds_the_same_and_says_so_on_the_way() -> None:
    looks = [list(find(TIGHT, 600.0, 7, None, 300)) for _ in range(2)]
    assert [one.tried for one in looks[0]][-1] == [one.tried for one in looks[1]][-1] >= 300
    assert looks[0][-1].found == looks[1][-1].found
    other = list(find(TIGHT, 600.0, 8, None, 300))[-1]
    assert [one.at for one in other.found] != [one.at for one in looks[0][-1].found] or not other.found


def test_holes_are_gone_to_and_nothing_between_them() -> None:
    *_, last = find(GHYLL, 600.0, 1, None, 400)
    zones = {name: zone.region for zone in GHYLL.room.zones for name in zone.mounts} if GHYLL.room else {}
    assert zones
    for one in last.found:
        for name, at in one.at.items():
            if name in zones:
                assert any(np.allclose(at, hole, atol=1e-3) for hole in zones[name].at)  # type: ignore[union-attr]


def contradicting(data: Any) -> None:
    """Bands that no place gives at once: all of the squat, from an instant center far behind."""
    zoned(data)
    data["bands"] |= {"anti_squat": [120.0, 130.0], "ic_length": [2400.0, 2600.0], "pinion_change": [None, 30.0]}


def test_two_bands_that_exclude_each_other_are_named_with_the_nearest_miss_of_each() -> None:
    design = changed(TENDER, contradicting)
    *_, last = find(design, 600.0, 1, None, 600)
    assert last.found == ()
    why = last.excluded
    assert why is not None
    assert len(why.misses) == 2
    assert [miss.holding for miss in why.misses] == [miss.figure for miss in why.misses[::-1]]
    for miss in why.misses:
        assert miss.by == pytest.approx(abs(miss.value - miss.edge))
        assert miss.by > 0.0
    rng = np.random.default_rng(28)  # other places, all over the zones: none does better than what was said
    mechanism = mechanism_of(design)
    mounts = np.repeat(mechanism.mounts, 300, axis=0)
    for left in [spot.name for spot in spots(design) if spot.at[1] > 0.0]:
        by = rng.uniform(-40.0, 40.0, (300, 3)) * ([0.0, 1.0, 1.0] if left == "lower-left.axle" else 1.0)
        mounts[:, mechanism.layout.mounts.index(left)] += by
        mounts[:, mechanism.layout.mounts.index(left.replace("left", "right"))] += by * [1.0, -1.0, 1.0]
    judged = judge(sweep_many(design, mechanism.with_mounts(mounts), 5))
    rows = [judged.figures.index(miss.figure) for miss in why.misses]
    assert not (judged.side[rows] == 0).all(axis=0).any()
    for miss, row, other in zip(why.misses, rows, rows[::-1], strict=True):
        holding = judged.side[other] == 0
        beyond = np.maximum(judged.value[row] - judged.high[row], judged.low[row] - judged.value[row])
        assert beyond[holding].min(initial=np.inf) > 0.5 * miss.by


def test_room_that_would_do_does() -> None:
    """Of zones that are too tight for one band: so much more room is said, and with it the band is met."""

    def tighter(data: Any) -> None:
        zoned(data)
        for zone in data["room"]["zones"]:
            zone["region"]["size"] = [6.0, 6.0, 6.0]
        squat = float(judge(sweep_many(TIGHT, mechanism_of(TIGHT))).values()["anti_squat"] or 0.0)
        data["bands"] |= {"anti_squat": [squat + 12.0, squat + 40.0]}

    design = changed(TENDER, tighter)
    *_, last = find(design, 600.0, 1, None, 400)
    assert last.excluded is not None
    assert last.excluded.gives
    for one in last.excluded.gives:
        assert one.figure == "anti_squat"

        def longer(data: Any, one: Any = one) -> None:
            tighter(data)
            a = "xyz".index(one.axis)
            for zone in data["room"]["zones"]:
                if zone["mounts"][0] in one.mounts:
                    way = -1.0 if a == 1 and zone["mounts"][0] != one.mounts[0] else 1.0
                    zone["region"]["size"][a] += abs(one.by)
                    zone["region"]["center"][a] += way * one.by / 2.0

        *_, with_it = find(changed(TENDER, longer), 600.0, 1, None, 600)
        misses = with_it.excluded.misses if with_it.excluded else ()
        assert "anti_squat" not in {miss.figure for miss in misses if miss.holding == ""}


def locked(data: Any) -> None:
    data["locks"] = {spot.name: "xyz" for spot in parts_of(TENDER).spots}


def loose(data: Any) -> None:
    zoned(data)
    data["links"] = data["links"][:2]


@pytest.mark.parametrize(("change", "said"), [(locked, "every mount is locked"), (loose, "nothing holds this axle")])
def test_what_cannot_be_sought_is_said_at_once(change: Any, said: str) -> None:
    with pytest.raises(Refused, match=said):
        next(find(changed(TENDER, change), 600.0))


def test_demands_that_are_none_are_refused() -> None:
    with pytest.raises(Refused) as refused:
        Demands(longest=300.0, shortest=400.0, error=-1.0, increment=0.0)
    assert [fault.path for fault in refused.value.faults] == ["longest", "error", "increment"]


def test_the_command() -> None:
    file = str(DEMO / "fell-tender-rear.json")
    done = run("find", file, "--json", "--tries", "200", "--seed", "3")
    assert done.returncode == 0, done.stderr
    said = json.loads(done.stdout)
    assert (said["format"], said["version"], said["seed"]) == ("oak-lever-find", 1, 3)
    *_, same = find(TENDER, 600.0, 3, None, 200)
    assert said["tried"] == same.tried
    assert [one["at"] for one in said["found"]] == [{k: list(at) for k, at in one.at.items()} for one in same.found]
    table = run("find", file, "--tries", "200", "--seed", "3")
    assert "places tried" in table.stdout
    assert "estimate" in table.stdout
    for bad in (["--seed", "-1"], ["--seconds", "0"], ["--longest", "x"]):
        assert run("find", file, *bad).returncode == 2
    refused = run("find", file, "--longest", "100", "--shortest", "200")
    assert refused.returncode == 2
    assert "more than the shortest" in refused.stderr


def shop_of(length: float, count: int = 1, wall: float = 6.35) -> TubesAtHand:
    text = {"tubes": [{"diameter": 50.8, "wall": wall, "length": length, "count": count}], "kerf": 3.0}
    return TubesAtHand(read_stock(json.dumps(text)))


def tubed(data: Any) -> None:
    zoned(data)
    data["joints"] = {
        "rod": {"limit": 30, "give": 0, "width": 50.0, "bolt": 15.875, "end": {
            "kind": "threaded", "shank": 60.0, "pitch": 1.0, "thread": 22.0, "hand": "right", "tube_end": 30.0,
        }},
        "sleeve": {"limit": 25, "give": 2, "width": 50.0, "bolt": 15.875, "end": {"kind": "sleeve", "outside": 60.0}},
    }  # fmt: skip
    for link in data["links"]:
        link["tube"] = {"diameter": 50.8, "wall": 6.35}
        for end in ("axle", "frame"):
            link[end]["joint"] = "sleeve"


MADE = changed(TENDER, tubed)


def test_bars_of_a_find_can_all_be_cut_from_the_tubes_at_hand() -> None:
    """Two tubes that are just too short for two bars each as the design stands."""
    bars = sorted(one.stock_length or 0.0 for one in cut(MADE, None).bars)
    shop = shop_of(sum(bars) / 2.0 - 40.0, 2)
    assert shop.lacks(MADE)
    *_, last = find(MADE, 600.0, 1, Demands(at_hand=shop), TRIES)
    assert last.found
    for one in last.found:
        found = cut(design_from(one.document), shop.stock)
        assert found.nest is not None
        assert not found.nest.left_over
        assert all(bar.stock_length for bar in found.bars)


def test_what_bars_lack_is_nothing_just_where_they_can_all_be_cut() -> None:
    """Random lengths of bars, from tubes of random lengths: as each design with such bars is cut."""
    rng = np.random.default_rng(28)
    names = [link.id for link in MADE.links]
    lacked = 0
    for _ in range(30):
        shop = shop_of(float(rng.uniform(700.0, 2200.0)), int(rng.integers(1, 5)))
        wanted = rng.uniform(600.0, 1100.0, len(names))

        def change(data: Any, wanted: Any = wanted) -> None:
            for link, long in zip(data["links"], wanted, strict=True):
                axle, frame = np.array(link["axle"]["at"]), np.array(link["frame"]["at"])
                link["frame"]["at"] = (axle + (frame - axle) / np.linalg.norm(frame - axle) * long).tolist()

        (short,) = shop.short(MADE, names)(wanted[None])
        lacked += bool(short)
        assert (short > 0.0) == bool(shop.lacks(changed(MADE, change)))
    assert 5 < lacked < 28


def test_a_shop_without_such_a_tube_and_ends_that_nobody_knows_are_refused_at_once() -> None:
    with pytest.raises(Refused, match=r"lower-left: no tube of 50.8 by 6.35 mm is at hand"):
        next(find(MADE, 600.0, 1, Demands(at_hand=shop_of(3000.0, wall=3.0))))
    with pytest.raises(Refused, match="how its ends are made is not known"):
        next(find(TIGHT, 600.0, 1, Demands(at_hand=shop_of(3000.0))))
    none = shop_of(200.0, 8)
    *_, last = find(MADE, 600.0, 1, Demands(at_hand=none), 300)
    assert not last.found
