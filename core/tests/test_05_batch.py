"""Many designs at once, and what moves each figure."""

import numpy as np
import pytest
from designs import changed, column_slopes

from oak_lever.api import cycle, figures_of_many, mount_names, mounts_of
from oak_lever.batch import CHUNK_POSES
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
            assert (poses.travel_mm[place], poses.articulation_deg[place]) == (travel, twist)
            single = Plan()
            at = single.pose(travel, twist)
            np.testing.assert_allclose(
                trace(mechanism_of(design), single.poses()).state[0, at], result.state[0, place], atol=1e-9
            )


def side_center(z_lower: float) -> np.ndarray:
    """Instant center of the gallery's double triangulated layout with its lower frame mounts at this height."""
    (x1, z1), (x2, z2), (x3, z3), (x4, z4) = (-20, 400), (960, z_lower), (30, 640), (780, 630)
    m, k = (z2 - z1) / (x2 - x1), (z4 - z3) / (x4 - x3)
    x = (z3 - z1 + m * x1 - k * x3) / (m - k)
    return np.array([x, z1 + m * (x - x1)])


def test_slope_of_the_instant_center_by_its_closed_form() -> None:
    """Both lower frame mounts up together: the sum of the two slopes, against the construction's slope."""
    design = layout("double triangulated")
    rows = [mount_names(design).index(name) for name in ("lower-left.frame", "lower-right.frame")]
    h = 1e-3
    slope = (side_center(460 + h) - side_center(460 - h)) / (2 * h)
    assert column_slopes(design, "ic_x")[rows, 2].sum() == pytest.approx(slope[0], rel=1e-5)
    assert column_slopes(design, "ic_height")[rows, 2].sum() == pytest.approx(slope[1], rel=1e-5)


RIDE_FIGURES = ("ic_x", "ic_height", "ic_length", "anti_squat", "roll_center_height", "roll_axis_angle", "roll_steer")


@pytest.mark.parametrize("name", LAYOUTS)
def test_slopes_foretell_a_small_move(name: str) -> None:
    design = layout(name)
    move = np.random.default_rng(5).uniform(-0.5, 0.5, (len(mount_names(design)), 3))
    both = np.stack([mounts_of(design) + move, mounts_of(design) - move])
    values, _ = figures_of_many(design, both, Plan().poses())
    for figure in RIDE_FIGURES:
        told = (column_slopes(design, figure) * move).sum()
        seen = (values[figure][0, 0] - values[figure][1, 0]) / 2
        assert np.isnan(told) == np.isnan(seen)
        assert np.isnan(told) or told == pytest.approx(seen, rel=0.02, abs=1e-3)


def test_symmetric_design_has_mirrored_slopes() -> None:
    for figure in ("anti_squat", "roll_center_height"):
        found = column_slopes(layout("double triangulated"), figure)
        np.testing.assert_allclose(found[0] * [1, -1, 1], found[2], atol=1e-6)


def test_a_loose_layout_has_no_slopes() -> None:
    loose = changed(layout("parallel and panhard"), lambda data: data.update(lateral=None))
    found = column_slopes(loose, "anti_squat")
    still = [n for n, name in enumerate(mount_names(loose)) if name == "lower-left.axle"]
    assert np.isnan(found[still, 0]).all()  # fore-aft, no move makes it hold: a sideways one does, after a fashion
