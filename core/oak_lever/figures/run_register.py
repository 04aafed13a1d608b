"""The register of what is judged of the parts that run with the axle: shocks, springs, stops, straps, the anti-roll
bar, the driveshaft, the steering. As `figures.register` is for the axle's own figures.

Bands are house values: defaults, never truths; a truck's own `bands` replace them by the figure's id."""

from dataclasses import dataclass
from typing import Literal

from oak_lever.figures.register import Judgment, Unit, each, every, most

Of = Literal["shock", "stop", "strap", "bar", "shaft", "steering", "axle"]
How = Literal["least", "most", "spread", "twist_spread", "ride", "own"]


@dataclass(frozen=True)
class RunFigure:
    """One figure of each part of a sort. `column`: what it is read off, of the part's own columns; over all poses
    that stops and straps allow (`least`, `most`), over the straight travel (`spread`), over the twist at ride
    (`twist_spread`), at ride; or worked out in a way of its own. `breaks`: past which value, on the band's side, it
    is a stop."""

    id: str
    of: Of
    name: str
    unit: Unit
    column: str
    how: How
    meaning: str
    verdict: Judgment | None = None
    breaks: float | None = None


RUN_FIGURES: tuple[RunFigure, ...] = (
    RunFigure(
        "stroke_bump", "shock", "Stroke left in bump", "mm", "to_shut", "least",
        "What is left of the shock's stroke where it is shortest, anywhere in travel and articulation.",
        Judgment(
            "fix", every(10.0, None),
            why_low="The shock comes near its end in bump, or to it: a shock is no stop.",
            disagrees="With a hydraulic bump zone in the shock some run closer.",
        ),
        breaks=0.0,
    ),
    RunFigure(
        "stroke_droop", "shock", "Stroke left in droop", "mm", "to_open", "least",
        "What is left of the shock's stroke where it is longest, anywhere in travel and articulation.",
        Judgment(
            "fix", every(3.0, None),
            why_low="The shock comes near its end in droop, or hangs the axle: a strap should be tight before that.",
            disagrees="Light axles on street trucks have hung on their shocks for years.",
        ),
    ),
    RunFigure(
        "ratio", "shock", "Motion ratio", "ratio", "ratio", "ride",
        "How much the shock shortens for each part that the wheels rise together, at ride.",
    ),
    RunFigure(
        "wheel_rate", "shock", "Wheel rate", "n_mm", "wheel_rate", "ride",
        "What the spring adds at the axle for a millimeter of travel at ride, the change of its ratio counted.",
    ),
    RunFigure(
        "lean_side", "shock", "Lean from the side", "deg", "lean_side", "ride",
        "How far the shock leans from upright at ride seen from the side; + with its top forward.",
    ),
    RunFigure(
        "lean_rear", "shock", "Lean from behind", "deg", "lean_rear", "ride",
        "How far the shock leans from upright at ride seen from behind; + with its top to the left.",
    ),
    RunFigure(
        "eye_frame", "shock", "Upper eye against its bolt", "deg", "eye_frame", "most",
        "How far the shock leans out of its upper bolt's square, anywhere in travel and articulation.",
        Judgment(
            "fix", every(None, 12.0),
            why_high=(
                "The upper eye turns farther than it should: past what it gives, it bends the shaft or tears "
                "the bush."
            ),
            disagrees="Spherical eyes with spacers turn farther; check the maker's figure.",
        ),
    ),
    RunFigure(
        "eye_axle", "shock", "Lower eye against its bolt", "deg", "eye_axle", "most",
        "How far the shock leans out of its lower bolt's square, anywhere in travel and articulation.",
        Judgment(
            "fix", every(None, 12.0),
            why_high=(
                "The lower eye turns farther than it should: past what it gives, it bends the shaft or tears "
                "the bush."
            ),
            disagrees="Spherical eyes with spacers turn farther; check the maker's figure.",
        ),
    ),
    RunFigure(
        "seated", "shock", "Spring pressed at its longest", "mm", "pressed", "least",
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
    RunFigure(
        "coils", "shock", "Coils left to close", "mm", "to_coils", "least",
        "How far the spring can still be pressed before its coils touch, where it is shortest.",
        Judgment(
            "fix", every(6.0, None),
            why_low="The coils come near to touching, or touch: then the spring is solid and takes the blow.",
            disagrees="With a stop well before it less has done.",
        ),
        breaks=0.0,
    ),
    RunFigure(
        "over", "shock", "Spring over the arm's line", "mm", "over", "most",
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
    RunFigure(
        "stop_touches", "stop", "Bump stop's gap at its least", "mm", "to_touch", "least",
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
    RunFigure(
        "strap_side", "strap", "Strap's sideways angle", "deg", "side", "own",
        "How far the strap leans sideways where it is longest: there it is tight first.",
        Judgment(
            "fix", every(None, 5.0),
            why_high="The strap pulls sideways on its clevis and bends it.",
            disagrees="A shackle that swings both ways takes more.",
        ),
    ),
    RunFigure(
        "strap_holds", "strap", "Strap's slack at its longest", "mm", "slack", "least",
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
    RunFigure(
        "strap_ride", "strap", "Strap's slack at ride", "mm", "slack", "ride",
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
    RunFigure(
        "bar_arm", "bar", "Anti-roll bar's arms from level", "deg", "arm_left", "ride",
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
    RunFigure(
        "bar_link", "bar", "Anti-roll bar's link from upright", "deg", "link_left", "most",
        "How far the anti-roll bar's left link leans from upright, anywhere in travel and articulation.",
        Judgment(
            "consider", every(None, 25.0),
            why_high="The link leans so far that it pulls the arm sideways more than it turns it.",
            disagrees="With spherical ends and slow work it lasts.",
        ),
    ),
    RunFigure(
        "order_bump", "axle", "Stop before metal", "mm", "", "own",
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
    RunFigure(
        "order_droop", "axle", "Strap before the rest", "mm", "", "own",
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
    RunFigure(
        "sits", "axle", "Height it sits at", "mm", "", "own",
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
    RunFigure(
        "sides", "axle", "One side over the other", "mm", "", "own",
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
    RunFigure(
        "frequency", "axle", "Ride frequency", "hz", "", "own",
        "How often a second the sprung weight of this axle would rise and fall on its springs, where it sits.",
        Judgment(
            "consider", each((1.0, 1.5), (1.0, 1.5), (1.3, 1.8), (None, None), (0.9, 1.3)),
            why_low="Soft for this use: it wallows, leans and comes to its stops often.",
            why_high="Stiff for this use: it rides hard, and the wheels follow the ground less.",
            disagrees="Loads that change a lot want it stiffer; shocks make up for some of it.",
        ),
    ),
    RunFigure(
        "slip_out", "shaft", "Slip left drawn out", "mm", "", "own",
        "What is left of the shaft's slip where it is drawn out farthest, anywhere in travel and articulation.",
        Judgment(
            "fix", every(6.0, None),
            why_low="The shaft comes near to being pulled apart there.",
            disagrees="Nobody.",
        ),
        breaks=0.0,
    ),
    RunFigure(
        "slip_in", "shaft", "Slip left pressed in", "mm", "", "own",
        "What is left of the shaft's slip where it is pressed in farthest, anywhere in travel and articulation.",
        Judgment(
            "fix", every(6.0, None),
            why_low="The shaft comes near to being pressed solid there: it breaks the case or the pinion's bearings.",
            disagrees="Nobody.",
        ),
        breaks=0.0,
    ),
    RunFigure(
        "case_angle", "shaft", "Joint at the case", "deg", "case_joint", "most",
        "The largest angle of the shaft's joint at the transfer case, anywhere in travel and articulation.",
        Judgment(
            "fix", every(None, None),
            why_high="The joint at the case keeps less in hand than it should, or is past its limit.",
            disagrees="Nobody: past it the joint locks and breaks.",
        ),
    ),
    RunFigure(
        "pinion_angle", "shaft", "Joint at the pinion", "deg", "pinion_joint", "most",
        "The largest angle of the shaft's joint at the pinion, anywhere in travel and articulation.",
        Judgment(
            "fix", every(None, None),
            why_high="The joint at the pinion keeps less in hand than it should, or is past its limit.",
            disagrees="Nobody: past it the joint locks and breaks.",
        ),
    ),
    RunFigure(
        "pinion_set", "shaft", "Pinion off its setting", "deg", "", "own",
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
    RunFigure(
        "unsteady", "shaft", "Unsteadiness left", "deg", "shaft_unsteady", "own",
        "Peak to peak, how far the pinion leads and lags in one turn, where that is most over the straight travel.",
        Judgment(
            "consider", every(None, 1.0),
            why_high="The pinion is driven unsteadily there: the shaft shakes at speed.",
            disagrees="At crawling speed nobody feels it.",
        ),
    ),
    RunFigure(
        "bump_steer", "steering", "Steer over the travel", "deg", "bump_steer", "spread",
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
    RunFigure(
        "twist_steer", "steering", "Steer in twist", "deg", "bump_steer", "twist_spread",
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

RUN_BY_ID = {figure.id: figure for figure in RUN_FIGURES}
