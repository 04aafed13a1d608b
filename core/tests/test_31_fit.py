"""Mounts as built, against trucks whose mounts are known; what the axle does with them, against the same suspension
drawn where it stands."""

import json
from math import asin, cos, degrees, radians, sin
from typing import Any

import numpy as np
import pytest
from designs import DEMO, changed, moved, run
from random_designs import random_designs

from oak_lever.api import Design, Refused, cycle, fitted, read_design, read_fit
from oak_lever.design.fit import FitLog
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.fit_up.as_built import as_built
from oak_lever.fit_up.fitted import FIGURES
from oak_lever.fit_up.readings import bar_names
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import rotations
from oak_lever.move.coordinates import spots
from oak_lever.weigh_up.kept import kept_poses

TENDER = read_design((DEMO / "fell-tender-rear.json").read_text())
SOUND = [one for one in [*(layout(n) for n in LAYOUTS), *random_designs(seed=31, many=6)] if cycle(one).located]
POSE = {"axle_x": 3.0, "axle_y": -2.0, "travel": -20.0, "articulation": 1.5, "pinion_change": -2.0, "yaw": 0.7}


def turned(design: Design, pose: dict[str, float]) -> tuple[Any, Any]:
    """The axle's turn and center in a pose, composed turn by turn."""
    pitch = radians(pose["pinion_change"]) * (-1.0 if design.axle.end == "rear" else 1.0)
    roll, yaw = asin(sin(radians(pose["articulation"])) / cos(pitch)), radians(pose["yaw"])
    x = np.array([[1, 0, 0], [0, cos(roll), -sin(roll)], [0, sin(roll), cos(roll)]])
    y = np.array([[cos(pitch), 0, sin(pitch)], [0, 1, 0], [-sin(pitch), 0, cos(pitch)]])
    z = np.array([[cos(yaw), -sin(yaw), 0], [sin(yaw), cos(yaw), 0], [0, 0, 1]])
    turn = z @ y @ x
    assert degrees(asin(turn[2, 1])) == pytest.approx(pose["articulation"])
    return turn, np.array([pose["axle_x"], pose["axle_y"], design.axle.tire_radius_loaded + pose["travel"]])


def log_of(design: Design, readings: list[dict[str, Any]], pose: dict[str, float] | None = None) -> FitLog:
    data = {"format": "oak-lever-fit", "version": 1, "readings": readings, **({"pose": pose} if pose else {})}
    return read_fit(json.dumps(data), design)


def all_read(design: Design, true: Any, pose: dict[str, float], sigma: float) -> list[dict[str, Any]]:
    """Height, ahead and left of every mount as it truly stands, the axle in a pose."""
    turn, center = turned(design, pose)
    rest = np.array([0.0, 0.0, design.axle.tire_radius_loaded])
    readings = []
    for n, spot in enumerate(spots(design)):
        at = center + turn @ (true[n] - rest) if spot.on == "axle" else true[n]
        for axis, kind in enumerate(("ahead", "left", "height")):
            readings.append(
                {
                    "id": f"{spot.name} {kind}",
                    "kind": kind,
                    "of": spot.name,
                    "value": float(at[axis]),
                    "unit": "mm",
                    "sigma": sigma,
                }
            )
    return readings  # fmt: skip


@pytest.mark.parametrize("design", SOUND, ids=lambda one: one.name)
def test_mounts_that_are_read_exactly_are_where_they_truly_are(design: Design) -> None:
    rng = np.random.default_rng(31)
    true = mechanism_of(design).mounts[0] + rng.normal(0.0, 6.0, mechanism_of(design).mounts[0].shape)
    log = log_of(design, all_read(design, true, POSE, 1e-3), POSE)
    found = fitted(design, log)
    for n, (name, one) in enumerate(found.mounts.items()):
        assert name == spots(design)[n].name
        assert one.at == pytest.approx(tuple(true[n]), abs=1e-5)
        assert one.off == pytest.approx(tuple(true[n] - mechanism_of(design).mounts[0, n]), abs=1e-5)
        assert one.measured
    assert found.suspect == ()


def test_one_reading_is_weighed_against_the_design_as_it_must_be() -> None:
    at = TENDER.links[2].frame.at
    reading = {"id": "r", "kind": "height", "of": "upper-left.frame", "value": at[2] + 8.0, "unit": "mm", "sigma": 3.0}
    one = fitted(TENDER, log_of(TENDER, [reading])).mounts["upper-left.frame"]
    assert one.off == pytest.approx((0.0, 0.0, 8.0 * 625.0 / (625.0 + 9.0)))
    assert one.sigma == pytest.approx((25.0, 25.0, (1.0 / (1.0 / 9.0 + 1.0 / 625.0)) ** 0.5))
    assert one.measured
    others = fitted(TENDER, log_of(TENDER, [reading])).mounts
    assert not others["upper-right.frame"].measured
    inches = {**reading, "value": (at[2] + 8.0) / 25.4, "unit": "in", "sigma": 3.0 / 25.4}
    assert fitted(TENDER, log_of(TENDER, [inches])).mounts["upper-left.frame"].off == pytest.approx(one.off)
    unsaid = {**reading, "sigma": None}
    del unsaid["sigma"]
    assert fitted(TENDER, log_of(TENDER, [unsaid])).mounts["upper-left.frame"].sigma[2] == pytest.approx(
        (1.0 / (1.0 / 1.5**2 + 1.0 / 625.0)) ** 0.5
    )


def diagonals(design: Design, true: Any, rng: Any, sigma: float) -> list[dict[str, Any]]:
    """Noisy heights and tape distances between mounts."""
    names = [spot.name for spot in spots(design)]
    readings = [
        {"id": f"h {name}", "kind": "height", "of": name, "unit": "mm", "sigma": sigma, "value": float(true[n][2] + rng.normal(0.0, sigma))}
        for n, name in enumerate(names)
    ]  # fmt: skip
    for n, one in enumerate(names):
        for k, other in enumerate(names[:n]):
            long = float(np.linalg.norm(true[n] - true[k]))
            if (
                np.abs(mechanism_of(design).mounts[0, n] - mechanism_of(design).mounts[0, k]).max() > 1e-6
            ):  # one bolt: kept
                readings.append(
                    {"id": f"d {n} {k}", "kind": "distance", "of": one, "to": other, "unit": "mm", "sigma": sigma,
                     "value": abs(long + float(rng.normal(0.0, sigma)))}
                )  # fmt: skip
    return readings


def sum_of_squares(design: Design, readings: list[dict[str, Any]], at: Any) -> float:
    """What is minimized, written out anew; the axle at ride."""
    names = [spot.name for spot in spots(design)]
    total = float((((at - mechanism_of(design).mounts[0]) / 25.0) ** 2).sum())
    for one in readings:
        place = at[names.index(one["of"])]
        model = place[2] if one["kind"] == "height" else np.linalg.norm(place - at[names.index(one["to"])])
        total += float(((one["value"] - model) / one["sigma"]) ** 2)
    return total


@pytest.mark.parametrize("design", SOUND[:8], ids=lambda one: one.name)
def test_nothing_near_fits_better_and_the_sigmas_are_those_of_many_such_trucks(design: Design) -> None:
    rng = np.random.default_rng(310)
    true = mechanism_of(design).mounts[0] + rng.normal(0.0, 5.0, mechanism_of(design).mounts[0].shape)
    readings = diagonals(design, true, rng, 1.0)
    found = as_built(design, log_of(design, readings))
    least = sum_of_squares(design, readings, found.at)
    for size in (1e-3, 0.1, 2.0):
        for _ in range(20):
            assert sum_of_squares(design, readings, found.at + rng.normal(0.0, size, found.at.shape)) >= least - 1e-9
    sigma = np.sqrt(np.diag(found.covariance)).reshape(found.at.shape)
    assert np.abs((found.at - true) / sigma).max() < 6.0
    normal = np.linalg.inv(found.covariance)
    step = 1e-3
    k = int(rng.integers(found.at.size))
    nudge = np.zeros(found.at.size)
    nudge[k] = step
    bent = [sum_of_squares(design, readings, found.at + way * nudge.reshape(found.at.shape)) for way in (1.0, -1.0)]
    curvature = (bent[0] - 2.0 * least + bent[1]) / step**2 / 2.0
    assert normal[k, k] == pytest.approx(curvature, rel=0.05)  # but for what the distances bend


def test_an_inch_that_was_misread_is_named_and_nothing_else() -> None:
    rng = np.random.default_rng(3)
    true = mechanism_of(TENDER).mounts[0] + rng.normal(0.0, 4.0, mechanism_of(TENDER).mounts[0].shape)
    readings = diagonals(TENDER, true, rng, 1.5)
    assert fitted(TENDER, log_of(TENDER, readings)).suspect == ()
    slip = next(one for one in readings if one["kind"] == "distance")
    slip["value"] += 25.4
    found = fitted(TENDER, log_of(TENDER, readings))
    assert found.suspect[0].reading == slip["id"]
    assert found.suspect[0].off > 8.0
    assert [one.off for one in found.suspect] == sorted((one.off for one in found.suspect), reverse=True)
    slip["left_out"] = True
    assert fitted(TENDER, log_of(TENDER, readings)).suspect == ()


def lengths_read(design: Design, lengths: dict[str, float]) -> list[dict[str, Any]]:
    return [
        {"id": f"l {name}", "kind": "length", "of": name, "value": value, "unit": "mm"} for name, value in lengths.items()
    ]  # fmt: skip


@pytest.mark.parametrize(
    "design", [d for d in SOUND if all(k.kind != "radius_arm" for k in d.links)], ids=lambda d: d.name
)
def test_with_every_bar_as_long_as_is_needed_the_axle_stands_as_drawn(design: Design) -> None:
    rng = np.random.default_rng(32)
    true = mechanism_of(design).mounts[0] + rng.normal(0.0, 6.0, mechanism_of(design).mounts[0].shape)
    if getattr(design.lateral, "kind", "") == "slider":
        true[-1] = mechanism_of(design).mounts[0, -1]  # its guide is the design's
    ride = dict.fromkeys(POSE, 0.0)
    read = all_read(design, true, ride, 1e-4)
    needed = {name: one.needed for name, one in fitted(design, log_of(design, read)).lengths.items()}
    found = fitted(design, log_of(design, [*read, *lengths_read(design, needed)]))
    assert found.as_made is not None
    for name in ("pinion_change", "axle_x", "axle_y", "yaw"):
        assert found.as_made[name] == pytest.approx(0.0, abs=1e-6)
    drawn, _ = moved(design, np.array([one.at for one in found.mounts.values()]) - mechanism_of(design).mounts[0])
    columns = cycle(drawn).ride.columns
    for name in FIGURES[4:]:
        value = float(columns[name][0])
        assert found.as_made[name] == (None if np.isnan(value) else pytest.approx(value, rel=1e-6, abs=1e-5))


@pytest.mark.parametrize("design", SOUND, ids=lambda one: one.name)
def test_with_bars_as_designed_it_stands_where_kept_lengths_lead(design: Design) -> None:
    rng = np.random.default_rng(33)
    true = mechanism_of(design).mounts[0] + rng.normal(0.0, 2.0, mechanism_of(design).mounts[0].shape)
    found = fitted(design, log_of(design, all_read(design, true, dict.fromkeys(POSE, 0.0), 1e-4)))
    at = np.array([one.at for one in found.mounts.values()])
    kept = kept_poses(mechanism_of(design), at[None])
    assert (found.as_made is not None) == bool(kept.reached[0, 0])
    if found.as_made is not None:
        x, y, z, *_ = kept.state[0, 0]
        assert (found.as_made["axle_x"], found.as_made["axle_y"]) == pytest.approx((x, y), abs=1e-5)
        assert z == pytest.approx(design.axle.tire_radius_loaded)
        assert np.isfinite(rotations(kept.state[0, 0])).all()
        assert found.as_made["yaw"] == pytest.approx(np.degrees(kept.state[0, 0, 5]), abs=1e-6)
    assert found.designed is not None
    assert found.designed["pinion_change"] == 0.0


def threaded(data: Any) -> None:
    end = {"kind": "threaded", "shank": 76.0, "shoulder": 21.0, "nut": 11.0, "least_in": 28.0, "pitch": 1.5875}
    data["joints"] = {
        "rod": {"limit": 20.0, "give": 0.0, "end": end},
        "bush": {"limit": 12.0, "give": 2.0, "end": {"kind": "sleeve", "outside": 44.45}},
        "bare": {"limit": 12.0, "give": 2.0},
    }
    for link, ends in zip(
        data["links"], (("rod", "rod"), ("rod", "bush"), ("bush", "bush"), ("rod", "bare")), strict=True
    ):
        link["axle"]["joint"], link["frame"]["joint"] = ends


def test_turns_are_of_the_threads_that_are_there() -> None:
    design = changed(TENDER, threaded)
    made = dict.fromkeys(bar_names(design), 700.0)
    made["lower-left"] = 690.0
    extra = {"id": "again", "kind": "length", "of": "lower-left", "value": 710.0, "unit": "mm"}
    found = fitted(design, log_of(design, [*lengths_read(design, made), extra])).lengths
    for name, pitch in (("lower-left", 3.175), ("lower-right", 1.5875)):
        assert found[name].made == 700.0
        assert found[name].turns == pytest.approx((found[name].needed - 700.0) / pitch)
    assert found["upper-left"].turns is None
    assert found["upper-right"].turns is None


GOOD = {"id": "r1", "kind": "height", "of": "upper-left.frame", "value": 600.0, "unit": "mm"}


@pytest.mark.parametrize(
    ("readings", "path"),
    [
        ([{**GOOD, "of": "upper-middle.frame"}], "readings[0].of"),
        ([GOOD, GOOD], "readings[1].id"),
        ([{**GOOD, "kind": "distance", "to": "upper-left.frame"}], "readings[0].to"),
        ([{**GOOD, "kind": "distance", "to": "nowhere"}], "readings[0].to"),
        ([{**GOOD, "kind": "distance", "to": "upper-right.frame", "value": -1.0}], "readings[0].value"),
        ([{**GOOD, "kind": "length", "of": "upper-left.frame"}], "readings[0].of"),
        ([{**GOOD, "sigma": 0.0}], "readings[0].sigma"),
        ([{**GOOD, "unit": "ft"}], "readings[0].unit"),
        (None, "readings"),
    ],
)
def test_what_is_no_reading_of_this_design_is_refused_at_its_place(readings: Any, path: str) -> None:
    data = {"format": "oak-lever-fit", "version": 1, **({} if readings is None else {"readings": readings})}
    with pytest.raises(Refused) as refused:
        read_fit(json.dumps(data), TENDER)
    assert path in {fault.path for fault in refused.value.faults}


def test_the_command(tmp_path: Any) -> None:
    log = tmp_path / "fit.json"
    log.write_text(json.dumps({"format": "oak-lever-fit", "version": 1, "readings": [GOOD]}))
    design = str(DEMO / "fell-tender-rear.json")
    done = run("fit", design, str(log), "--json")
    assert done.returncode == 0, done.stderr
    said = json.loads(done.stdout)
    assert (said["format"], said["version"]) == ("oak-lever-fit-figures", 1)
    assert said == json.loads(json.dumps(fitted(TENDER, read_fit(log.read_text(), TENDER)).data()))
    table = run("fit", design, "-", text=log.read_text()).stdout
    assert "not measured" in table
    assert "upper-left.frame" in table
    both = run("fit", "-", "-", text="{}")
    assert (both.returncode, "one file" in both.stderr) == (2, True)
    bad = run("fit", design, "-", text='{"format": "oak-lever-fit", "version": 1}')
    assert (bad.returncode, "readings" in bad.stderr) == (2, True)
