"""Figures of the parts that run with the axle: shocks, springs, stops, straps, the anti-roll bar, the driveshaft, the
steering; and of the axle on them."""

from oak_lever.figures.register.kinds import (
    COILS_LEFT_MM,
    RESERVE_DEG,
    Area,
    Figure,
    Judgment,
    Of,
    Own,
    Read,
    Unit,
    each,
    every,
    most,
)


def _part(
    id_: str, of: Of, name: str, unit: Unit, how: Read | Own, meaning: str, verdict: Judgment | None = None,
    breaks: float | None = None,
) -> Figure:  # fmt: skip
    area = _AREAS.get(of, "corners")
    return Figure(id_, name, "", unit, how, meaning, of, row=False, verdict=verdict, breaks=breaks, area=area)


_AREAS: dict[Of, Area] = {"shaft": "shaft", "steering": "steering"}


PARTS: tuple[Figure, ...] = (
    _part(
        "stroke_bump", "shock", "Stroke left in bump", "mm", Read("shock {part} to_shut", "least"),
        "What is left of the shock's stroke where it is shortest, anywhere in travel and articulation.",
        Judgment(
            "fix", every(10.0, None),
            why_low="The shock comes near its end in bump, or to it: a shock is no stop.",
            disagrees="With a hydraulic bump zone in the shock some run closer.",
        ),
        breaks=0.0,
    ),
    _part(
        "stroke_droop", "shock", "Stroke left in droop", "mm", Read("shock {part} to_open", "least"),
        "What is left of the shock's stroke where it is longest, anywhere in travel and articulation.",
        Judgment(
            "fix", every(3.0, None),
            why_low="The shock comes near its end in droop, or hangs the axle: a strap should be tight before that.",
            disagrees="Light axles on street trucks have hung on their shocks for years.",
        ),
    ),
    _part(
        "ratio", "shock", "Motion ratio", "ratio", Read("shock {part} ratio", "ride"),
        "How much the shock shortens for each part that the wheels rise together, at ride.",
    ),
    _part(
        "wheel_rate", "shock", "Wheel rate", "n_mm", Read("shock {part} wheel_rate", "ride"),
        "What the spring adds at the axle for a millimeter of travel at ride, the change of its ratio counted.",
    ),
    _part(
        "lean_side", "shock", "Lean from the side", "deg", Read("shock {part} lean_side", "ride"),
        "How far the shock leans from upright at ride seen from the side; + with its top forward.",
    ),
    _part(
        "lean_rear", "shock", "Lean from behind", "deg", Read("shock {part} lean_rear", "ride"),
        "How far the shock leans from upright at ride seen from behind; + with its top to the left.",
    ),
    _part(
        "eye_frame", "shock", "Upper eye against its bolt", "deg", Read("shock {part} eye_frame", "most"),
        "How far the shock leans out of its upper bolt's square, anywhere in travel and articulation.",
        Judgment(
            "fix", every(None, 12.0),
            why_high=(
                "The upper eye turns farther than it should: past what it gives, it bends the shaft or tears "
                "the bush."
            ),
            disagrees="Spherical eyes with spacers turn farther; check the maker's figure.",
            reserve=RESERVE_DEG,
        ),
    ),
    _part(
        "eye_axle", "shock", "Lower eye against its bolt", "deg", Read("shock {part} eye_axle", "most"),
        "How far the shock leans out of its lower bolt's square, anywhere in travel and articulation.",
        Judgment(
            "fix", every(None, 12.0),
            why_high=(
                "The lower eye turns farther than it should: past what it gives, it bends the shaft or tears "
                "the bush."
            ),
            disagrees="Spherical eyes with spacers turn farther; check the maker's figure.",
            reserve=RESERVE_DEG,
        ),
    ),
    _part(
        "seated", "shock", "Spring pressed at its longest", "mm", Read("shock {part} pressed", "least"),
        "How far the spring is still pressed where it is longest, anywhere in travel and articulation.",
        Judgment(
            "fix", every(0.0, None),
            why_low=(
                "The spring is pressed less there than is wanted; below 0 it is loose and can fall out of its "
                "seat."
            ),
            disagrees="Some let it hang loose on a retainer or a light second spring.",
        ),
    ),
    _part(
        "coils", "shock", "Coils left to close", "mm", Read("shock {part} to_coils", "least"),
        "How far the spring can still be pressed before its coils touch, where it is shortest.",
        Judgment(
            "fix", every(COILS_LEFT_MM, None),
            why_low="The coils come near to touching, or touch: then the spring is solid and takes the blow.",
            disagrees="With a stop well before it less has done.",
        ),
        breaks=0.0,
    ),
    _part(
        "over", "shock", "Spring over the arm's line", "mm", Read("shock {part} over", "most"),
        (
            "How far the spring's eye stands over the line through the arm's end joints, seen along it; below it "
            "is less than 0."
        ),
        Judgment(
            "fix", every(None, 0.0),
            why_high=(
                "The spring stands higher by the arm's line than is wanted; above it, it pushes the arm to "
                "roll over."
            ),
            disagrees="Bushed ends hold it upright while they are new.",
        ),
        breaks=0.0,
    ),
    _part(
        "stop_touches", "stop", "Bump stop's gap at its least", "mm", Read("stop {part} to_touch", "least"),
        (
            "How far the bump stop is from touching at its nearest, anywhere in travel and articulation; pressed "
            "is less than 0."
        ),
        Judgment(
            "consider", every(None, 0.0),
            why_high="The bump stop is pressed less within the travel than is wanted; above 0 it never touches.",
            disagrees="As a last guard beyond the travel it has its place.",
        ),
    ),
    _part(
        "strap_side", "strap", "Strap's sideways angle", "deg", Own("strap_side", "strap {part} side"),
        "How far the strap leans sideways where it is longest: there it is tight first.",
        Judgment(
            "fix", every(None, 5.0),
            why_high="The strap pulls sideways on its clevis and bends it.",
            disagrees="A shackle that swings both ways takes more.",
        ),
    ),
    _part(
        "strap_holds", "strap", "Strap's slack at its longest", "mm", Read("strap {part} slack", "least"),
        (
            "How much slack the strap has left where it is longest, anywhere in travel and articulation; "
            "stretched is less than 0."
        ),
        Judgment(
            "consider", every(None, 0.0),
            why_high="The strap keeps more slack within the travel than is wanted; above 0 it is never tight there.",
            disagrees="As a last guard beyond the travel it has its place.",
        ),
    ),
    _part(
        "strap_ride", "strap", "Strap's slack at ride", "mm", Read("strap {part} slack", "ride"),
        "How much slack the strap has at ride.",
        Judgment(
            "fix", every(0.0, None),
            why_low=(
                "The strap has less slack at ride than is wanted; with none it holds the truck down and there "
                "is no droop."
            ),
            disagrees="Nobody.",
        ),
        breaks=0.0,
    ),
    _part(
        "bar_arm", "bar", "Anti-roll bar's arms from level", "deg", Read("bar arm_left", "ride"),
        "How far the anti-roll bar's left arm slopes from level at ride.",
        Judgment(
            "consider", every(-10.0, 10.0),
            why_low=(
                "The arms' ends stand lower by their pivot at ride than is wanted: the bar's rate at the wheel "
                "changes with travel."
            ),
            why_high=(
                "The arms' ends stand higher by their pivot at ride than is wanted: the bar's rate at the "
                "wheel changes with travel."
            ),
            disagrees="Short arms that fit beat long level ones that do not.",
        ),
    ),
    _part(
        "bar_link", "bar", "Anti-roll bar's link from upright", "deg", Read("bar link_left", "most"),
        "How far the anti-roll bar's left link leans from upright, anywhere in travel and articulation.",
        Judgment(
            "consider", every(None, 25.0),
            why_high="The link leans so far that it pulls the arm sideways more than it turns it.",
            disagrees="With spherical ends and slow work it lasts.",
        ),
    ),
    _part(
        "order_bump", "axle", "Stop before metal", "mm", Own("order_bump"),
        (
            "How much farther up the axle could go after the bump stop is solid before a shock, a coil, a joint "
            "or a link ends it."
        ),
        Judgment(
            "fix", every(0.0, None),
            why_low="The bump stop does not end the way up soon enough before something else does.",
            disagrees="Nobody: shocks and joints are no stops.",
        ),
    ),
    _part(
        "order_droop", "axle", "Strap before the rest", "mm", Own("order_droop"),
        (
            "How much farther down the axle could go after the strap is at its end before a shock, a shaft, a "
            "joint or a link ends it, or a spring falls loose."
        ),
        Judgment(
            "fix", every(0.0, None),
            why_low="The strap does not end the way down soon enough before something else does.",
            disagrees="Light axles on street trucks have hung on their shocks for years.",
        ),
    ),
    _part(
        "sits", "axle", "Height it sits at", "mm", Own("sits"),
        (
            "Where the springs as given carry the truck, over (+) or under ride height; what it settles after "
            "that is taken off."
        ),
        Judgment(
            "fix", every(-10.0, 10.0),
            why_low=(
                "On these springs the truck sits lower than is wanted, where all else was laid out for its "
                "ride height."
            ),
            why_high=(
                "On these springs the truck sits higher than is wanted, where all else was laid out for its "
                "ride height."
            ),
            disagrees="Threaded seats take out some of it.",
        ),
    ),
    _part(
        "sides", "axle", "One side over the other", "mm", Own("sides"),
        (
            "How much higher the left side's springs alone would carry their half than the right side's alone, at "
            "the wheel."
        ),
        Judgment(
            "consider", every(-5.0, 5.0),
            why_low="The left side's springs carry it lower than is wanted: it leans to the left.",
            why_high="The right side's springs carry it lower than is wanted: it leans to the right.",
            disagrees="Fuel and driver lean it as much.",
        ),
    ),
    _part(
        "frequency", "axle", "Ride frequency", "hz", Own("frequency"),
        "How often a second the sprung weight of this axle would rise and fall on its springs, where it sits.",
        Judgment(
            "consider", each((1.0, 1.5), (1.0, 1.5), (1.3, 1.8), (None, None), (0.9, 1.3)),
            why_low="Soft for this use: it wallows, leans and comes to its stops often.",
            why_high="Stiff for this use: it rides hard, and the wheels follow the ground less.",
            disagrees="Loads that change a lot want it stiffer; shocks make up for some of it.",
        ),
    ),
    _part(
        "slip_out", "shaft", "Slip left drawn out", "mm", Own("slip_out", "shaft_slip", in_band=False),
        "What is left of the shaft's slip where it is drawn out farthest, anywhere in travel and articulation.",
        Judgment(
            "fix", every(6.0, None),
            why_low="The shaft comes near to being pulled apart there.",
            disagrees="Nobody.",
        ),
        breaks=0.0,
    ),
    _part(
        "slip_in", "shaft", "Slip left pressed in", "mm", Own("slip_in", "shaft_slip", in_band=False),
        "What is left of the shaft's slip where it is pressed in farthest, anywhere in travel and articulation.",
        Judgment(
            "fix", every(6.0, None),
            why_low="The shaft comes near to being pressed solid there: it breaks the case or the pinion's bearings.",
            disagrees="Nobody.",
        ),
        breaks=0.0,
    ),
    _part(
        "case_angle", "shaft", "Joint at the case", "deg", Read("case_joint", "most"),
        "The largest angle of the shaft's joint at the transfer case, anywhere in travel and articulation.",
        Judgment(
            "fix", every(None, None),
            why_high="The joint at the case keeps less in hand than it should, or is past its limit.",
            disagrees="Nobody: past it the joint locks and breaks.",
            reserve=RESERVE_DEG,
        ),
    ),
    _part(
        "pinion_angle", "shaft", "Joint at the pinion", "deg", Read("pinion_joint", "most"),
        "The largest angle of the shaft's joint at the pinion, anywhere in travel and articulation.",
        Judgment(
            "fix", every(None, None),
            why_high="The joint at the pinion keeps less in hand than it should, or is past its limit.",
            disagrees="Nobody: past it the joint locks and breaks.",
            reserve=RESERVE_DEG,
        ),
    ),
    _part(
        "pinion_set", "shaft", "Pinion off its setting", "deg", Own("pinion_set"),
        (
            "How far over (+) or under the pinion points at ride than the shaft's kind asks for: parallel to the "
            "case's output with a joint at each end, along the shaft with a double joint at the case."
        ),
        Judgment(
            "fix", every(-3.0, 0.5),
            why_low="The pinion points lower than is wanted of it with this kind of shaft.",
            why_high=(
                "The pinion points higher than is wanted of it with this kind of shaft; drive turns it up on "
                "soft mounts."
            ),
            disagrees="Set by feel for the speed that it is driven at, either side has run smoothly.",
        ),
    ),
    _part(
        "unsteady", "shaft", "Unsteadiness left", "deg", Own("unsteady", "shaft_unsteady"),
        "Peak to peak, how far the pinion leads and lags in one turn, where that is most over the straight travel.",
        Judgment(
            "consider", every(None, 1.0),
            why_high="The pinion is driven unsteadily there: the shaft shakes at speed.",
            disagrees="At crawling speed nobody feels it.",
        ),
    ),
    _part(
        "bump_steer", "steering", "Steer over the travel", "deg", Read("bump_steer", "spread"),
        (
            "Between the farthest left and right that the drag link turns the knuckle over the straight travel, "
            "wheel held."
        ),
        Judgment(
            "fix", most(3.0, 1.5, 0.8, 0.5, 1.5),
            why_high="The truck steers itself over bumps, the wheel held still.",
            disagrees="At walking pace the hands take it out.",
        ),
    ),
    _part(
        "twist_steer", "steering", "Steer in twist", "deg", Read("bump_steer", "twist_spread"),
        (
            "Between the farthest left and right that the drag link turns the knuckle from full twist to full "
            "twist at ride."
        ),
        Judgment(
            "consider", most(5.0, 3.0, 1.5, 1.0, 3.0),
            why_high="The truck steers itself as the axle twists, the wheel held still.",
            disagrees="At walking pace the hands take it out.",
        ),
    ),
)  # fmt: skip
