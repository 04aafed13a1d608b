"""Figures of the axle as its links hold it."""

from oak_lever.figures.register.kinds import RESERVE_DEG, At, Figure, Judgment, Own, Pull, Range, each, every, most

WEAK_FORCE = 6.0
"""A link force of more than this for each unit of side load is no hold at all: six times what the tires push, in a tube
that lies within five degrees of fore and aft."""
WEAK_GIVE = 36.0
"""Nor is giving sideways more than this many times as much as one level bar with the same ends would: `WEAK_FORCE`,
squared."""
MOST_FIGHT_MM = 1.5
"""Past this much give spent by what locates the axle sideways on holding against itself, brackets tear. A house value:
it takes that from what every bushed end has to give."""

AXLE: tuple[Figure, ...] = (
    Figure(
        "ic_length", "Instant center length", "Instant center", "mm", At("ic_length"),
        "How far ahead of or behind the axle the point lies that it swings about, at ride.",
        construction="center",
        pulls=(Pull("ic_x", "Ahead of the axle"), Pull("ic_height", "Off the ground")),
        verdict=Judgment(
            "consider", each((1500, None), (1500, None), (1500, None), (1000, 1400), (2500, None)),
            why_low="The links converge close by: pinion, anti-squat and wheel path change quickly with travel.",
            why_high="The instant center lies far out: the tire is planted slowly on the launch.",
            disagrees="Equal parallel links have none at all, and hold the pinion for it.",
        ),
    ),
    Figure(
        "anti_squat", "Anti-squat", "Anti-squat", "percent", At("anti_squat", rated=True),
        (
            "How much of the rear's squat under drive the links carry instead of the springs, at ride, as if this axle "
            "did all the driving."
        ),
        end="rear",
        construction="neutral",
        pulls=(Pull("anti_squat", "Percent"),),
        verdict=Judgment(
            "fix", each((50, 100), (40, 90), (40, 100), (90, 130), (20, 70)),
            why_low="The links take less of the squat under drive than is wanted, and leave more of it to the springs.",
            why_high=(
                "The links take more of the squat than is wanted: past 100 % they jack the rear up, and it "
                "hops on a climb."
            ),
            disagrees="Racers who want it to hit the tire hard run more; those who run long soft springs run less.",
        ),
    ),
    Figure(
        "anti_squat_fall", "Anti-squat fall to droop", "Anti-squat fall", "percent", Own("anti_squat_fall"),
        "How much less anti-squat there is at full droop than at ride.",
        end="rear",
        row=False,
        verdict=Judgment(
            "consider", each((0, None), (0, None), (None, None), (None, 15), (0, None)),
            why_low=(
                "Anti-squat does not fall as the axle drops: where it rises, the more it jacks itself up, the "
                "harder it jacks."
            ),
            why_high="Anti-squat falls away as the rear lifts, and the launch changes while it happens.",
            disagrees="With little droop travel in use it hardly shows.",
        ),
    ),
    Figure(
        "anti_dive", "Anti-dive", "Anti-dive", "percent", At("anti_dive"),
        "How much of the front's dive under braking the links carry instead of the springs, at ride.",
        end="front",
        construction="neutral",
        pulls=(Pull("anti_dive", "Percent"),),
        verdict=Judgment(
            "consider", each((0, 60), (0, 50), (10, 50), (0, 50), (0, 40)),
            why_low="The links take less of the dive under braking than is wanted; below 0 they add to it.",
            why_high="The links take so much of the dive that the front end goes stiff and hops while it brakes.",
            disagrees="With little weight over the front and slow driving it hardly shows.",
        ),
    ),
    Figure(
        "anti_lift_drive", "Lift under drive", "Lift, drive", "percent", At("anti_lift_drive"),
        "How much of the front's rise under drive the links hold down instead of the springs, at ride.",
        end="front",
        row=False,
        construction="neutral",
        pulls=(Pull("anti_lift_drive", "Percent"),),
        verdict=Judgment(
            "consider", each((-50, 60), (-50, 60), (-50, 60), (-50, 60), (-40, 50)),
            why_low="The links let drive lift the front more than is wanted; below 0 they add to the lift.",
            why_high="The links hold the front down under drive more than is wanted: it hops on a climb.",
            disagrees="Where the front drives seldom, nobody minds.",
        ),
    ),
    Figure(
        "anti_squat_true", "Anti-squat at its share of the drive", "At its share", "percent", At("anti_squat"),
        "Anti-squat as it is with the part of the drive that this axle really has; the rated one takes all of it.",
        end="rear",
        row=False,
    ),
    Figure(
        "roll_center", "Roll center height", "Roll center", "mm", At("roll_center_height"),
        "The height at which the links hold the axle sideways, at ride: the body rolls about it.",
        construction="axis",
        pulls=(Pull("roll_center_height", "Off the ground"),),
        verdict=Judgment(
            "fix", each((1.0, 1.6), (0.8, 1.4), (0.7, 1.2), (0.8, 1.3), (0.8, 1.4)),
            why_low="A low roll center lets the body lean far on its springs in a turn or on a side slope.",
            why_high="A high roll center jacks the body up in a turn and shoves it sideways over one-wheel bumps.",
            disagrees="Crawlers like it high for side slopes; road builders like it low.",
            scale="tire_radius",
        ),
    ),
    Figure(
        "roll_axis", "Roll axis", "Roll axis", "deg", At("roll_axis_angle"),
        "Slope of the line the axle rolls about, at ride; + rises toward the front and steers the axle in roll.",
        end="rear",
        construction="axis",
        pulls=(Pull("roll_axis_angle", "Slope, degrees"),),
        verdict=Judgment(
            "consider", each((-6, 2), (-5, 0), (-4, 0), (-1, 1), (-5, 0)),
            why_low=(
                "The axis dips more to the front, or rises less, than is wanted: that is toward understeer as "
                "the body leans, and dull."
            ),
            why_high=(
                "The axis rises more to the front, or dips less, than is wanted: that is toward oversteer as "
                "the body leans, and loose."
            ),
            disagrees="Slow trucks never notice either.",
        ),
    ),
    Figure(
        "front_roll_axis", "Roll axis", "Roll axis", "deg", At("roll_axis_angle"),
        "Slope of the line the front axle rolls about, at ride; + rises toward the front and steers the axle in roll.",
        end="front",
        construction="axis",
        pulls=(Pull("roll_axis_angle", "Slope, degrees"),),
        verdict=Judgment(
            "consider", each((-6, 6), (-5, 5), (-4, 4), (-1, 1), (-4, 4)),
            why_low=(
                "The axis dips more to the front, or rises less, than is wanted: that turns the axle into the "
                "turn, and it darts."
            ),
            why_high=(
                "The axis rises more to the front, or dips less, than is wanted: that turns the axle out of "
                "the turn as the body leans."
            ),
            disagrees="The driver's hands take out more than that.",
        ),
    ),
    Figure(
        "front_steer", "Steer of the axle in articulation", "Axle steer", "deg", Range("yaw", "articulation"),
        (
            "How far the front axle turns in plan from full articulation one way to the other, at the travel where it "
            "turns most."
        ),
        end="front",
        construction="axis",
        verdict=Judgment(
            "consider", most(6, 4, 2.5, 1, 3),
            why_high="The axle turns in plan as it articulates, and the wheel with it.",
            disagrees="The driver's hands take out more than that.",
        ),
    ),
    Figure(
        "rear_steer", "Rear steer", "Rear steer", "deg", Range("yaw", "articulation"),
        (
            "How far the axle turns in plan from full articulation one way to full articulation the other, at the "
            "travel where it turns most."
        ),
        end="rear",
        construction="axis",
        verdict=Judgment(
            "fix", most(4, 2.5, 1.5, 0.5, 2),
            why_high="The axle steers the truck as it articulates.",
            disagrees="At walking pace it costs little.",
        ),
    ),
    Figure(
        "pinion_change", "Pinion change", "Pinion change", "deg", Range("pinion_change", "heave"),
        "Between the pinion's highest and lowest pointing over the whole travel.",
        end="rear",
        construction="arcs",
        pulls=(Pull("pinion_change", "Degrees up"),),
        verdict=Judgment(
            "fix", most(6, 4, 2, 2, 6),
            why_high="The pinion swings too far: its joint leaves the angle that it was set for.",
            disagrees="With a double joint at the transfer case the pinion may swing as long as it follows the case.",
            on_arms="consider",
        ),
    ),
    Figure(
        "caster_change", "Caster change", "Caster change", "deg", Range("caster_change", "heave"),
        "Between the most and the least caster over the whole travel.",
        end="front",
        construction="arcs",
        pulls=(Pull("caster_change", "Degrees back"),),
        verdict=Judgment(
            "fix", most(5, 3, 2, 2, 2.5),
            why_high="Caster swings with travel: where there is less the truck wanders, where more it steers heavily.",
            disagrees="Radius arm builders live with more for the room it saves.",
            on_arms="consider",
        ),
    ),
    Figure(
        "fore_aft", "Axle fore-aft", "Axle fore-aft", "mm", Range("axle_x", "heave"),
        "How far forward (+) and back the axle's center swings on the links over the whole travel.",
        construction="path",
        pulls=(Pull("axle_x", "Forward"),),
    ),
    Figure(
        "lateral_drift", "Sideways drift", "Sideways drift", "mm", Range("axle_y", "heave"),
        "How far the axle's center moves sideways over the whole travel.",
        construction="path",
        pulls=(Pull("axle_y", "To the left"),),
        verdict=Judgment(
            "consider", most(25, 15, 10, 5, 15),
            why_high="The axle walks sideways over bumps and steers the truck.",
            disagrees="A long level panhard bar drifts little enough for most.",
        ),
    ),
    Figure(
        "panhard_slope", "Panhard bar's slope from behind", "Bar slope", "deg", Own("panhard_slope"),
        "How far the panhard bar slopes from level, seen from behind, at ride; + where its frame end is the higher.",
        row=False,
        verdict=Judgment(
            "consider", every(-6, 6),
            why_low=(
                "The bar's frame end stands lower than is wanted: sloping, it moves the axle sideways as soon "
                "as that leaves ride."
            ),
            why_high=(
                "The bar's frame end stands higher than is wanted: sloping, it moves the axle sideways as soon "
                "as that leaves ride."
            ),
            disagrees="Level at mid travel slopes at ride, and drifts the least over the whole of it.",
        ),
    ),
    Figure(
        "lower_angle", "Lower link angle", "Lower links", "deg", Own("lower_angle"),
        "The steepest lower link, from level, at ride.",
        verdict=Judgment(
            "consider", most(10, 8, 6, 6, 10),
            why_high="Steep lowers push the axle back or pull it forward over every bump.",
            disagrees="Tall trucks with short frames have no choice; anti-squat may want the slope.",
        ),
    ),
    Figure(
        "separation_axle", "Separation at the axle", "Separation", "mm", Own("separation_axle"),
        "Mean height of the upper joints over the lower ones, at the axle.",
        verdict=Judgment(
            "fix", every(0.25, None),
            why_low="Close together, uppers and lowers carry large forces from axle torque, and brackets tear.",
            disagrees="With little torque and heavy brackets less has lasted.",
            scale="tire_diameter",
        ),
    ),
    Figure(
        "separation_frame", "Separation at the frame", "Separation, frame", "mm", Own("separation_frame"),
        "Mean height of the upper joints over the lower ones, at the frame.",
        row=False,
        verdict=Judgment(
            "consider", every(0.4, 1.0),
            why_low="Close together at the frame, the links converge soon, and small errors in holes turn the pinion.",
            why_high=(
                "Far apart at the frame: where they are wider there than at the axle, the links meet on the "
                "far side of it."
            ),
            disagrees="The frame often leaves no more room.",
            scale="separation_axle",
        ),
    ),
    Figure(
        "length_ratio", "Upper links to lower links", "Length ratio", "ratio", Own("length_ratio"),
        "Mean length of the uppers over that of the lowers. What it does to the pinion the pinion's curve shows.",
        row=False,
    ),
    Figure(
        "plan_sum", "Plan angles of one side, in all", "Plan, one side", "deg", Own("plan_sum"),
        "The plan angles of upper and lower of one side, each against the centerline, added up; the lesser side."
        ,
        row=False,
        construction="plan",
    ),
    Figure(
        "plan_upper", "Angle between the uppers in plan", "Plan, uppers", "deg", Own("plan_upper"),
        "The included angle of the upper pair, seen from above.",
        row=False,
        construction="plan",
    ),
    Figure(
        "plan_lower", "Angle between the lowers in plan", "Plan, lowers", "deg", Own("plan_lower"),
        "The included angle of the lower pair, seen from above.",
        row=False,
        construction="plan",
    ),
    Figure(
        "ic_of_wheelbase", "Instant center against the wheelbase", "Center, base", "ratio", Own("ic_of_wheelbase"),
        "How far toward the other axle the instant center lies, as a part of the wheelbase; below 0 away from it.",
        row=False,
        construction="center",
    ),
    Figure(
        "ic_of_cg", "Instant center against the center of gravity", "Center, c.g.", "ratio", Own("ic_of_cg"),
        "The instant center's height over the ground, as a part of the center of gravity's.",
        row=False,
        construction="center",
    ),
    Figure(
        "side_force", "Link force from side load", "Side load", "ratio", Own("side_force"),
        "The largest force in any link or bar, as a multiple of a side load on the tires.",
        construction="plan",
        verdict=Judgment(
            "fix", every(None, 2.0),
            why_high="What holds the axle sideways lies nearly along the truck: a side load is multiplied in it.",
            disagrees="Some hold by a rule of 40 degrees between an upper and a lower; the force says it better.",
        ),
        breaks=WEAK_FORCE,
    ),
    Figure(
        "side_give", "Give from side load", "Side give", "ratio", Own("side_give"),
        (
            "How far the axle gives sideways under a side load, as a multiple of what one level bar across the truck "
            "with the same ends would give."
        ),
        row=False,
        verdict=Judgment(
            "consider", every(None, 8.0),
            why_high="The axle wanders sideways on its bushings before anything holds it.",
            disagrees="With spherical ends throughout there is little to give.",
            by_joints=True,
        ),
        breaks=WEAK_GIVE,
    ),
    Figure(
        "fight", "Locators at odds", "At odds", "mm", Own("fight"),
        (
            "What must give because two things locate the axle sideways and want it in two places, anywhere in travel "
            "and articulation."
        ),
        verdict=Judgment(
            "consider", every(None, 0.8),
            why_high="Two things hold the axle sideways, and they want it in two places: brackets tear.",
            disagrees="With soft bushes and little travel it has lasted.",
            by_joints=True,
        ),
        breaks=MOST_FIGHT_MM,
    ),
    Figure(
        "joint_angle", "Joint angle", "Joint angle", "deg", Own("joint_angle"),
        (
            "The turn out of its bolt's square of the joint that comes nearest to its limit, anywhere in travel, "
            "articulation and both together."
        ),
        verdict=Judgment(
            "fix", every(None, None),
            why_high=(
                "The joint keeps less in hand there than it should, or is past its limit; check the maker's "
                "figure."
            ),
            disagrees="High-misalignment ends allow more; bushed ends far less.",
            reserve=RESERVE_DEG,
            by_joints=True,
        ),
        area="joints",
    ),
    Figure(
        "swing", "Link swing", "Link swing", "deg", Own("swing"),
        "The largest angle any upper or lower swings through from full droop to full bump.",
        construction="arcs",
        verdict=Judgment(
            "consider", every(None, 20.0),
            why_high="A link that swings so far changes everything quickly toward the ends of the travel.",
            disagrees="As long as the chassis lets you is all anyone can do.",
        ),
    ),
    Figure(
        "bind", "Give needed", "Give needed", "mm", Own("bind"),
        "What bushings or steel must give where the links ask for more than one thing at once.",
        verdict=Judgment(
            "consider", every(None, 0.1),
            why_high="More is asked of the links there than they can do at once; rigid rod ends would bend something.",
            disagrees="With soft bushed ends at one end of each link it works for years.",
            by_joints=True,
        ),
    ),
)  # fmt: skip
