"""Every sentence that random designs are told with a figure or a direction in it, worked out anew from the two designs,
before and after; and no sentence that nothing here knows how to check."""

import math
import re
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from anew import about_axle, asked, ends_at, far_along, first_at, lengths_of
from random_designs import MANY, random_designs

from oak_lever.api import (
    Cure,
    Design,
    Finding,
    clearances,
    cures,
    cycle,
    design_from,
    findings,
    findings_on,
    look,
    parts_of,
)
from oak_lever.design.parts import part_said

_NO_FIGURES = re.compile(
    r"It is another shock, and the spring on it sits otherwise|Check that their own length leaves room for that|"
    r"Stops or straps must hold it there|The shock's body must have that much thread"
)
NUMBER = r"([-\d.]+)"
WHERE = r"(at [-\d.]+ mm|already at ride)"
WAYS = r"(forward|back|up|down|inward|outward|to the left|to the right)"


class Told:
    """A sentence of a cure, with the design before and after it."""

    def __init__(self, design: Design, finding: Finding, cure: Cure) -> None:
        self.design, self.finding, self.cure = design, finding, cure
        self.then = design_from(cure.document)

    def struts(self, listed: str) -> list[tuple[Any, Any]]:
        """Those that are others then, before and after; none before where one was added."""
        was, now = ({one.id: one for one in getattr(d.corners, listed)} for d in (self.design, self.then))
        return [(was.get(name), one) for name, one in now.items() if was.get(name) != one]


def near(said: str, value: float, within: float = 0.51) -> None:
    assert float(said) == pytest.approx(value, abs=within)


def moved(told: Told, words: str) -> None:
    """ "Coilover frame eyes up 25 mm and inward 12 mm, and coilover lower eyes back 50 mm": those and no others."""
    left = {
        spot.name: np.array(now.at) - np.array(spot.at)
        for spot, now in zip(parts_of(told.design).spots, parts_of(told.then).spots, strict=True)
        if math.dist(spot.at, now.at) > 1e-9
    }
    axes, subject = {name: set[int]() for name in left}, ""
    for what, way, amount in re.findall(rf"(?:^|, and | and )((?:(?!, and | and ).)*?) ?{WAYS} {NUMBER} mm", words):
        subject = what.lower() or subject
        mine = [spot for spot in parts_of(told.design).spots if spot.name in left and goes_by(told, spot, subject)]
        assert mine, (subject, list(left))
        for spot in mine:
            axis = "xyz".index({"forward": "x", "back": "x", "up": "z", "down": "z"}.get(way, "y"))
            sign = {"forward": 1, "back": -1, "up": 1, "down": -1, "to the left": 1, "to the right": -1}.get(
                way, np.sign(spot.at[1]) * (1 if way == "outward" else -1)
            )
            near(amount, sign * left[spot.name][axis], 1e-6)
            axes[spot.name].add(axis)
    for name, by in left.items():
        assert {n for n in range(3) if abs(by[n]) > 1e-9} == axes[name], (name, by, words)


SPOTS = {
    "drag-link.frame": "drag link joint at the pitman arm", "drag-link.axle": "drag link joint at the knuckle",
    "kingpin": "drag link point on the kingpin", "tie-rod.one": ".*tie rod", "tie-rod.other": ".*tie rod",
    "anti-roll.pivot": "anti-roll bar pivot", "anti-roll.arm": "anti-roll bar arm end",
    "anti-roll.link": "anti-roll bar link end",
}  # fmt: skip
"""What points of steering and of the anti-roll bar go by."""


def goes_by(told: Told, spot: Any, subject: str) -> bool:
    """Whether a point may be called that: the part's words without sides, then the end."""
    if spot.part == "shaft" or "joint at the case" in subject:
        return "joint at the case" in subject
    if spot.name in SPOTS:
        return re.fullmatch(SPOTS[spot.name], subject) is not None
    names = {b.words for b in parts_of(told.design).bodies if b.id in (spot.name.partition(".")[0], spot.part)}
    names |= {spot.part.replace("-", " "), "watts link" if spot.part == "watts" else ""}
    plain = {re.sub(r" ?\b(left|right)\b", "", name) for name in names if name} | names - {""}
    end = "frame" if spot.name.endswith(".frame") else "axle"
    right = "frame" in subject if end == "frame" else any(word in subject for word in ("axle", "lower", "pivot"))
    return right and any(subject.startswith(name) for name in plain)


def straps_cut(told: Told, by: str, way: str, lengths: str) -> None:
    changed = told.struts("straps")
    assert changed
    each = {name: long for long, name in re.findall(rf"{NUMBER} mm \(([\w ]+)\)", lengths)}
    for was, now in changed:
        near(by, was.length - now.length if way == "shorter" else now.length - was.length)
        near(each[part_said(told.then, now.id)] if each else lengths.removesuffix(" mm"), now.length)


def spacers(told: Told, by: str) -> None:
    changed = told.struts("stops")
    assert changed
    for was, now in changed:
        near(by, now.free - was.free)
        near(by, now.solid - was.solid)


def ordered(told: Told, extended: str, compressed: str, stroke: str) -> None:
    changed = told.struts("shocks")
    assert changed
    for _, now in changed:
        near(extended, now.extended)
        near(compressed, now.compressed)
        near(stroke, now.extended - now.compressed, 1.01)


def inflated(told: Told, kpa: str, psi: str) -> None:
    for _, now in told.struts("shocks"):
        near(kpa, now.air.pressure)
    near(psi, float(kpa) / 6.8948)


def sprung(told: Told, rate: str, pounds: str, *rest: str) -> None:
    """The spring's own numbers; the frequency by the energy in every spring, bent twice over the travel."""
    stacked, (preload, pressed, hertz) = len(rest) == 5, rest[-3:]
    near(pounds, float(rate) / 0.1751268, 1.0)
    changed = [now for _, now in told.struts("shocks")]
    assert changed
    # what settles has settled: there the springs as they are typed stand by as much higher
    state = look(told.then, cycle(told.then, 3).data()["settles_at"], 0.0).here.state
    for now in changed:
        near(rate, now.spring.rate, 0.051)
        near(preload, now.spring.preload)
        assert (now.spring.second is not None) == stacked
        if now.spring.second:
            near(rest[0], now.spring.second.rate, 0.051)
        if now.extended is not None:
            near(pressed, now.spring.preload + now.extended - float(lengths_of(told.then, now, state)[0]), 1.0)
    springs = [one for one in told.then.corners.shocks if one.spring or one.air]  # type: ignore[union-attr]
    if all(one.spring and one.spring.second is None for one in springs):
        near(hertz, bounces(told.then, springs), 0.06)


def bounces(design: Design, springs: Any) -> float:
    """Hz at ride, where these springs carry it: half their energy's second slope over the sprung mass."""
    swept = cycle(design.rewritten(travel=design.travel.rewritten(bump=8.0, droop=8.0)), 17).heave
    energy = np.zeros(len(swept.state))
    for one in springs:
        pressed = np.maximum(one.spring.preload + one.extended - lengths_of(design, one, swept.state), 0.0)
        energy += 0.5 * one.spring.rate * pressed**2
    rate = float(np.polynomial.Polynomial.fit(swept.columns["travel"], energy, 6).deriv(2)(0.0))
    share = design.vehicle.front_share if design.axle.end == "front" else 1.0 - design.vehicle.front_share
    mass = design.vehicle.mass * share - design.axle.mass
    return math.sqrt(rate * 1000.0 / mass) / (2.0 * math.pi)


def shimmed(told: Told, way: str, by: str, to: str) -> None:
    assert told.design.driveshaft
    assert told.then.driveshaft
    down = told.then.driveshaft.case.angle - told.design.driveshaft.case.angle
    near(by, down if way == "down" else -down, 0.051)
    near(to, told.then.driveshaft.case.angle, 0.051)


def other_output(told: Told, way: str, nose: str) -> None:
    """One case: its front output tips up as its rear one tips down, and the pinion there wants to follow."""
    assert told.design.driveshaft
    assert told.then.driveshaft
    down = told.then.driveshaft.case.angle > told.design.driveshaft.case.angle
    assert way == ("up" if down else "down")
    # an output that points up from the case wants a pinion that points down, to be parallel
    assert nose == ("down" if way == "up" else "up")


def housing_turned(told: Told, how: str, by: str, way: str, to: str, side: str) -> None:
    turn = told.then.axle.pinion.angle - told.design.axle.pinion.angle
    near(by, turn if way == "up" else -turn, 0.051)
    near(to, told.then.axle.pinion.angle * (1.0 if side == "up" else -1.0), 0.051)
    stays = all(spot.at == pytest.approx(now.at) for spot, now in both_spots(told) if spot.holds)
    assert stays == (how == "in its brackets")
    assert told.then.axle.pinion.joint == pytest.approx(about_axle(told.design, told.design.axle.pinion.joint, turn))


def both_spots(told: Told) -> list[tuple[Any, Any]]:
    return list(zip(parts_of(told.design).spots, parts_of(told.then).spots, strict=True))


def brackets_stay(told: Told) -> None:
    assert all(spot.at == pytest.approx(now.at) for spot, now in both_spots(told) if spot.holds)


def under_asked(told: Told, by: str) -> None:
    near(by, asked(told.then) - told.then.axle.pinion.angle, 0.11)


def joint_goes(told: Told, by: str) -> None:
    near(by, math.dist(told.design.axle.pinion.joint, told.then.axle.pinion.joint))


def joint_stays(told: Told) -> None:
    assert told.design.driveshaft
    assert told.then.driveshaft
    assert told.design.driveshaft.case.joint == told.then.driveshaft.case.joint


def slip_cut(told: Told, by: str, longer: str, way: str) -> None:
    """A shaft that is longer by so much stands that much farther in its slip: it can be drawn out by that much more."""
    more = 1.0 if longer == "longer" else -1.0
    assert (way == "be drawn out") == (more > 0)
    out, in_ = slip_change(told)
    near(by, more * out, 1e-6)
    near(by, -more * in_, 1e-6)


def slip_change(told: Told) -> tuple[float, float]:
    """How much more the slip then has to be drawn out, and to press in."""
    assert told.design.driveshaft
    assert told.then.driveshaft
    was, now = told.design.driveshaft.slip, told.then.driveshaft.slip
    return now.out - was.out, now.in_ - was.in_


def slip_ordered(told: Told, by: str) -> None:
    near(by, sum(slip_change(told)), 1e-6)


def carries_more(told: Told, words: str) -> None:
    """A part that then carries more than is wanted of it, and did not, or was not as near its end."""
    was, now = ({one.id: one for one in findings_on(design)} for design in (told.design, told.then))
    mine = next(one for one in now.values() if f"{one.title[:1].lower()}{one.title[1:]}" == words)
    assert mine.value is not None
    assert mine.low is not None
    assert mine.value < mine.low
    before = was.get(mine.id)
    assert before is None or before.severity != mine.severity


def caster_goes(told: Told, was: str, now: str) -> None:
    assert told.design.axle.caster is not None
    assert told.then.axle.caster is not None
    near(was, told.design.axle.caster, 0.051)
    near(now, told.then.axle.caster, 0.051)
    by = told.then.axle.pinion.angle - told.design.axle.pinion.angle
    near(now, told.design.axle.caster - by, 0.051)


def link_set(told: Told, words: str, by: str, way: str) -> None:
    ends = [next(b for b in parts_of(d).bodies if b.words == words) for d in (told.design, told.then)]
    was, now = (math.dist(b.a.at, b.b.at) for b in ends)
    near(by, now - was if way == "longer" else was - now)


SHAFT_ENDS = {
    "case_joint": "the shaft's joint at the case comes to its limit",
    "pinion_joint": "the shaft's joint at the pinion comes to its limit",
    "slip_out": "the driveshaft is pulled apart", "slip_in": "the driveshaft is pressed solid",
}  # fmt: skip


def travel_ends(told: Told, end: str, then: str, by: str, was: str, was_by: str) -> None:
    for said, words, design in ((then, by, told.then), (was, was_by, told.design)):
        found = ends_at(design, 1.0 if end == "Bump" else -1.0)
        near(said, found[0][0], 1.0)
        named = re.search(r"\((.+)\)$", words)
        together = {SHAFT_ENDS.get(name) or part_said(design, name) for at, name in found if at < found[0][0] + 1.0}
        assert (named[1] if named else words) in together, (words, found)


def comes_at(said: str, design: Design, struts: list[Any], level: str, longer: bool) -> None:
    """Where on its way from ride the first of some grows longer or shorter than it is to be; or is so at ride."""
    way = -1.0 if longer else 1.0
    if said == "already at ride":
        _, state = far_along(design, way)
        over = [float(lengths_of(design, one, state)[0]) - getattr(one, level) for one in struts]
        assert (max(over) if longer else -min(over)) >= -0.5, over
    else:
        number = said.removeprefix("at ").removesuffix(" mm")
        near(number, min(first_at(design, one, getattr(one, level), longer=longer, way=way) for one in struts), 1.0)


def strap_tight(told: Told, then: str, was: str) -> None:
    for said, design, n in ((then, told.then, 1), (was, told.design, 0)):
        comes_at(said, design, [pair[n] for pair in told.struts("straps")], "length", longer=True)


def stop_touches(told: Told, then: str, was: str) -> None:
    for said, design, n in ((then, told.then, 1), (was, told.design, 0)):
        comes_at(said, design, [pair[n] for pair in told.struts("stops")], "free", longer=False)


def seats_turned(told: Told, by: str, way: str, turns: str, pitch: str) -> None:
    sign = 1.0 if way == "tighter" else -1.0
    turned = [sign * (now.spring.preload - was.spring.preload) for was, now in told.struts("shocks")]
    assert turned
    near(by, max(turned))
    near(turns, max(turned) / float(pitch))


def travel_asked(told: Told, what: str, then: str, was: str) -> None:
    near(then, getattr(told.then.travel, what))
    near(was, getattr(told.design.travel, what))


def too_near(told: Told, pair: str, gap: str, wanted: str) -> None:
    """Over all poses, those too that stops and straps keep it from, the pair comes at least as near."""
    assert float(gap) < float(wanted)
    found = [one for one in clearances(told.then, shocks=True).pairs
             if pair in (f"{part_said(told.then, one.a)} and {part_said(told.then, one.b)}")]  # fmt: skip
    assert found
    near(wanted, found[0].wanted)
    assert found[0].gap <= float(gap) + 0.51


RULES: list[tuple[str, Callable[..., None]]] = [
    (rf"((?:.*?) {WAYS} {NUMBER} mm)", lambda told, words, *_: moved(told, words)),
    (rf"Cut the straps {NUMBER} mm (shorter|longer): (.+) between bolt centers", straps_cut),
    (rf"Put {NUMBER} mm of spacer under the bump stops", spacers),
    (rf"Order a shock {NUMBER} mm long open and {NUMBER} mm closed, {NUMBER} mm of stroke", ordered),
    (rf"Set the air springs to {NUMBER} kPa \({NUMBER} psi\)", inflated),
    ((rf"Springs of {NUMBER} N/mm \({NUMBER} lb/in\)(?: over the second of {NUMBER} N/mm \({NUMBER} lb/in\))?, "
     rf"preloaded {NUMBER} mm: pressed {NUMBER} mm at ride, {NUMBER} Hz"),
     lambda told, *said: sprung(told, *(one for one in said if one))),
    ((rf"Shim the transfer case so that its output toward this axle tips (up|down) {NUMBER} degrees, to {NUMBER} "
     "degrees down"), shimmed),
    ((r"Its other output tips (up|down) by as much: where that shaft has a joint at each end, the other pinion then "
     r"wants its nose (up|down) by as much"), other_output),
    ((rf"Turn the housing (in its brackets|with its brackets, by the links' lengths) {NUMBER} degrees, nose (up|down), "
     rf"to {NUMBER} degrees nose (up|down)"), housing_turned),
    ("Perches and brackets are cut loose and set anew, so that every mount stays where it is", brackets_stay),
    (rf"That is {NUMBER} degrees under what the shaft asks for, as soft mounts let drive turn it up", under_asked),
    (rf"The pinion's joint goes {NUMBER} mm with it", joint_goes),
    ("Its joint is taken as staying where it is", joint_stays),
    (rf"Caster goes from {NUMBER} to {NUMBER} degrees", caster_goes),
    (rf"The ([\w ]+) is set {NUMBER} mm (longer|shorter)", link_set),
    (rf"(Bump|Droop) then ends at {NUMBER} mm, where (.+?); it ended at {NUMBER} mm, where (.+)", travel_ends),
    (rf"The strap is tight {WHERE}, where it was tight {WHERE}", strap_tight),
    (rf"The stop touches {WHERE}, where it touched {WHERE}", stop_touches),
    (rf"Turn the spring seats {NUMBER} mm (tighter|looser), {NUMBER} turns of {NUMBER} mm", seats_turned),
    (rf"Ask for less (bump|droop|articulation)(?: travel)?: {NUMBER} (?:mm|degrees) instead of {NUMBER} (?:mm|degrees)", travel_asked),
    (rf"Then too near: (.+?) are {NUMBER} mm apart, where {NUMBER} mm is wanted", too_near),
    (r"Then: (.+)", carries_more),
    (rf"Build the shaft {NUMBER} mm (longer|shorter), so that its slip has that much more to (be drawn out|press in)",
     slip_cut),
    (r"It takes that from the other way", lambda told: near("0", sum(slip_change(told)), 1e-6)),
    (rf"Order a slip with {NUMBER} mm more travel", slip_ordered),
]  # fmt: skip


def sentences(text: str) -> list[str]:
    return [one.removesuffix(".") for one in re.split(r"(?<=\.) (?=[A-Z])", text) if one]


def kind_of(design: Design, sentence: str) -> str:
    """A sentence without its numbers and the names of parts."""
    for words in sorted({body.words for body in parts_of(design).bodies}, key=len, reverse=True):
        sentence = re.sub(re.escape(words), "part", sentence, flags=re.IGNORECASE)
    return re.sub(NUMBER, "#", sentence)


def checked(told: Told) -> set[str]:
    """What a cure says, held against the two designs; the kinds of sentence that were."""
    kinds = set()
    for sentence in (*sentences(told.cure.words), *sentences(told.cure.price)):
        if _NO_FIGURES.fullmatch(sentence):
            continue
        match, check = next(
            ((m, check) for rule, check in RULES if (m := re.fullmatch(rule, sentence))), (None, too_near)
        )
        assert match, f"nothing here checks: {sentence}"
        try:
            check(told, *match.groups())
        except AssertionError as error:
            raise AssertionError(f"{told.design.name}, {told.finding.id}: {sentence}\n{error}") from error
        kinds.add(kind_of(told.design, sentence))
    return kinds


SAYS = (
    ("is wanted, and leave more", "low"), ("more of the squat than", "high"), ("A high roll center", "high"),
    ("dips more to the front, or rises less", "low"), ("rises more to the front, or dips less", "high"),
    ("points higher than", "high"), ("points lower than", "low"), ("stands higher by the arm", "high"),
    ("keeps more slack", "high"), ("steer more as", "high"), ("Anti-squat does not fall", "low"),
)  # fmt: skip
"""Which side of its band a figure must be on where a finding says that."""


def message_so(design: Design, one: Finding) -> set[str]:
    kinds = set()
    for words, side in SAYS:
        if words in one.message:
            assert one.verdict == side, (design.name, one.message, one.value, one.low, one.high)
            kinds.add(f"{one.figure}: {words}")
    if match := re.search(r"(A shock is fully drawn out|A shock is fully pressed|A spring's coils touch) \((.+?)\) "
                          r"before the (bump stop|limit strap)", one.message):  # fmt: skip
        found = ends_at(design, 1.0 if match[3] == "bump stop" else -1.0)
        corners = design.corners
        assert corners
        holds = {strut.id for strut in (corners.stops if match[3] == "bump stop" else corners.straps)}
        held = next((at for at, name in found if name in holds), math.inf)
        assert match[2] in {part_said(design, name) for at, name in found if at < held and name not in SHAFT_ENDS}
        kinds.add(f"{match[1]} before {match[3]}")
    return kinds


SHARES = 4


@pytest.mark.parametrize("share", range(SHARES))
def test_every_sentence_is_so_of_the_designs_before_and_after(share: int) -> None:
    kinds = set[str]()
    for design in random_designs(20)[share::SHARES]:
        for one in findings(cycle(design)):
            if one.severity == "good":
                continue
            kinds |= message_so(design, one)
            for cure in cures(design, one.id, 1.0, "mm", 4):
                kinds |= checked(Told(design, one, cure))
    assert len(kinds) >= min(25, 6 * MANY // SHARES), sorted(kinds)
