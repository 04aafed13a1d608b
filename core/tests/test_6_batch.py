"""Many designs at once, and what moves each figure."""

import numpy as np
import pytest
from designs import changed

from oak_lever.api import cycle, figures_of_many, mount_names, mounts_of, sensitivities
from oak_lever.batch import CHUNK_POSES, RIDE_FIGURES
from oak_lever.design.gallery import LAYOUTS, layout
from oak_lever.motion.mechanism import mechanism_of
from oak_lever.motion.trace import Plan, trace


@pytest.mark.parametrize("name", LAYOUTS)
def test_a_batch_says_of_each_design_what_its_own_cycle_says(name: str) -> None:
    design = layout(name)
    mounts = mounts_of(design) + np.random.default_rng(3).uniform(-5, 5, (4, len(mount_names(design)), 3))
    plan, travels = Plan(), np.linspace(-160, 120, 5)
    places = plan.heave(travels)
    found, reached = figures_of_many(design, mounts, plan.poses())
    assert reached.all()
    one = mechanism_of(design)
    for n in range(len(mounts)):
        alone = trace(one.with_mounts(mounts[n : n + 1]), plan.poses())
        np.testing.assert_array_equal(alone.state[0, :, 0], found["axle_x"][n])
    original, _ = figures_of_many(design, mounts_of(design)[None], plan.poses())
    rows = cycle(design, 5).heave.columns
    for column in ("anti_squat", "roll_center_height", "pinion_change", "bind"):
        np.testing.assert_allclose(original[column][0, places], rows[column], rtol=1e-9, atol=1e-9)


def test_a_batch_longer_than_a_chunk_comes_whole_and_in_order() -> None:
    design = layout("double triangulated")
    plan = Plan()
    plan.heave(np.linspace(-160, 120, 20))
    count = CHUNK_POSES // 20 + 7
    mounts = np.repeat(mounts_of(design)[None], count, axis=0)
    mounts[:, 0, 2] += np.linspace(-10, 10, count)
    found, _ = figures_of_many(design, mounts, plan.poses(), ["anti_squat"])
    assert list(found) == ["anti_squat"]
    assert (np.diff(found["anti_squat"][:, 0]) != 0).all()


@pytest.mark.parametrize("shape", [(8, 3), (2, 7, 3), (2, 8, 2)])
def test_mounts_of_another_shape_are_refused(shape: tuple[int, ...]) -> None:
    with pytest.raises(ValueError, match="shape"):
        figures_of_many(layout("double triangulated"), np.zeros(shape), Plan().poses())


def test_grid_of_travel_and_articulation_has_each_pose_once() -> None:
    design, plan = layout("double triangulated"), Plan()
    places = plan.grid(np.array([-100.0, 0.0, 60.0]), np.array([-8.0, 3.0]))
    poses = plan.poses()
    result = trace(mechanism_of(design), poses)
    for row, travel in zip(places, (-100, 0, 60), strict=True):
        for place, twist in zip(row, (-8, 3), strict=True):
            assert (poses.travel[place], poses.articulation[place]) == (travel, twist)
            single = Plan()
            at = int(single.grid(np.array([travel]), np.array([twist]))[0, 0])
            np.testing.assert_allclose(
                trace(mechanism_of(design), single.poses()).state[0, at], result.state[0, place], atol=1e-9
            )


def side_center(z_lower: float) -> np.ndarray:
    """Instant center of the gallery's double triangulated layout with its lower frame mounts at this height."""
    (x1, z1), (x2, z2), (x3, z3), (x4, z4) = (-20, 400), (960, z_lower), (30, 640), (780, 630)
    m, k = (z2 - z1) / (x2 - x1), (z4 - z3) / (x4 - x3)
    x = (z3 - z1 + m * x1 - k * x3) / (m - k)
    return np.array([x, z1 + m * (x - x1)])


def test_sensitivity_of_the_instant_center_by_its_closed_form() -> None:
    """Both lower frame mounts up together: the sum of the two sensitivities, against the construction's slope."""
    found = sensitivities(layout("double triangulated"))
    rows = [found.mounts.index(name) for name in ("lower-left.frame", "lower-right.frame")]
    h = 1e-3
    slope = (side_center(460 + h) - side_center(460 - h)) / (2 * h)
    assert found.by_figure["ic_x"][rows, 2].sum() == pytest.approx(slope[0], rel=1e-5)
    assert found.by_figure["ic_height"][rows, 2].sum() == pytest.approx(slope[1], rel=1e-5)


@pytest.mark.parametrize("name", LAYOUTS)
def test_sensitivities_foretell_a_small_move(name: str) -> None:
    design = layout(name)
    found = sensitivities(design)
    rng = np.random.default_rng(5)
    move = rng.uniform(-0.5, 0.5, (len(found.mounts), 3))
    plan = Plan()
    places = plan.heave(np.linspace(-160, 120, 11))
    both = np.stack([mounts_of(design) + move, mounts_of(design) - move])
    values, _ = figures_of_many(design, both, plan.poses())
    for figure in RIDE_FIGURES:
        told = (found.by_figure[figure] * move).sum()
        seen = (values[figure][0, 0] - values[figure][1, 0]) / 2
        assert np.isnan(told) == np.isnan(seen)
        assert np.isnan(told) or told == pytest.approx(seen, rel=0.02, abs=1e-3)
    ranges = np.ptp(values["pinion_change"][:, places], axis=1)
    told = (found.by_figure["pinion_range"] * move).sum()
    assert told == pytest.approx((ranges[0] - ranges[1]) / 2, rel=0.02, abs=1e-3)


def test_symmetric_design_has_mirrored_sensitivities() -> None:
    found = sensitivities(layout("double triangulated"))
    for figure in ("anti_squat", "roll_center_height", "pinion_range"):
        slopes = found.by_figure[figure]
        np.testing.assert_allclose(slopes[0] * [1, -1, 1], slopes[2], atol=1e-6)


def test_a_loose_layout_has_no_sensitivities() -> None:
    loose = changed(layout("parallel and panhard"), lambda data: data.update(lateral=None))
    assert all(np.isnan(values).all() for values in sensitivities(loose).by_figure.values())
