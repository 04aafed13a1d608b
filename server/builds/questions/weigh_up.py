"""Weighing up: every combination of the holes there are, and how exact each must be. Lengths mm, angles degrees."""

from typing import Annotated, Any

from pydantic import Field

from builds.questions.asking import (
    Document,
    Going,
    Increment,
    Named,
    Payload,
    SoFar,
    long_question,
    question,
    refusing,
    stock_from,
)
from oak_lever.api import (
    EDGE_BOLTS,
    ERROR_MM,
    LARGEST_MM,
    MOST_BESIDE,
    MOST_STEPS,
    Against,
    Beside,
    Combination,
    Demands,
    Loaded,
    Nearer,
    NewHole,
    Outcomes,
    Search,
    Site,
    Tolerance,
    TubesAtHand,
    beside,
    combinations_of,
    design_from,
    find,
    held_against,
    hole_maps,
    new_holes,
    one_change,
    outcomes,
    tolerance,
    verdicts_on,
)

_AT_ONCE = 100
"""Combinations between two looks: a fraction of a second's work."""


class HoleMapIn(Payload):
    """What does every combination of the holes in the design's racks do? The pinion's swing over so many `steps` of
    straight travel."""

    document: Document
    steps: Annotated[int, Field(ge=2, le=MOST_STEPS)] = 41


class HoleMapOut(Payload):
    """The sites, and the combinations worked out so far, the last site running fastest; what speaks against those that
    were held against it so far, by their places; the bands of figures that a map may show; and, of the combination in
    use, the one change of hole that gives a step more, or less, of anti-squat."""

    sites: list[Site]
    combinations: list[Combination]
    against: list[Against]
    windows: dict[str, tuple[float | None, float | None]]
    now: int | None
    more: Nearer | None
    less: Nearer | None


STEP_PERCENT = 10.0


@long_question("hole_map", HoleMapOut)
def hole_map(asked: HoleMapIn) -> Going:
    design = design_from(asked.document)
    windows = {
        one.figure.id: (one.low, one.high)
        for one in verdicts_on(design).checks
        if not one.part and one.value is not None
    }
    out: dict[str, Any] = {"against": [], "windows": windows, "now": None, "more": None, "less": None}
    found = None
    for found in hole_maps(design, asked.steps, _AT_ONCE):
        out |= {"sites": found.sites, "combinations": found.combinations}
        yield SoFar(_MAPPED * len(found.combinations) / combinations_of(found.sites), out)
    assert found is not None
    at = tuple(site.now for site in found.sites)
    if None not in at:
        here: Any = at
        out["now"] = next(n for n, one in enumerate(found.combinations) if one.at == at)
        out |= {
            name: one_change(found, here, "anti_squat", by)
            for name, by in (("more", STEP_PERCENT), ("less", -STEP_PERCENT))
        }
    for one in held_against(design, found.sites, found.combinations):
        out["against"].append(one)
        yield SoFar(_MAPPED + (1.0 - _MAPPED) * len(out["against"]) / len(found.combinations), out)
    return out


_MAPPED = 0.3
"""The share of the work that the figures take."""


class NewHolesIn(Payload):
    """Where along each row of holes would one more put the middle of the window, and is there metal for it?"""

    document: Document


class NewHolesOut(Payload):
    """Of each row of two holes or more, in the order of the sites; `edge`: from a hole's center to any edge, in bolt
    diameters."""

    holes: list[NewHole]
    edge: float


@question("new-holes", NewHolesOut, name="new_holes")
def one_more_hole(asked: NewHolesIn) -> Any:
    return {"holes": new_holes(design_from(asked.document)), "edge": EDGE_BOLTS}


class LoadedIn(Payload):
    """A state of load: the truck's mass, kg, and the share of it on the front axle."""

    name: Named
    mass: Annotated[float, Field(gt=0, le=1e6)]
    front_share: Annotated[float, Field(ge=0, le=1)]


class BesideIn(Payload):
    """How do these designs of one axle compare, each under each of these loads too?"""

    designs: Annotated[list[Document], Field(min_length=1, max_length=MOST_BESIDE)]
    loads: Annotated[list[LoadedIn], Field(max_length=5, default_factory=list)]


@question("beside", Beside)
def side_by_side(asked: BesideIn) -> Any:
    loads = [Loaded(one.name, one.mass, one.front_share) for one in asked.loads]
    return beside([design_from(one) for one in asked.designs], loads)


class OutcomesIn(Payload):
    """How do trucks come out whose every hole and length is off by chance, one sigma of `error`?"""

    document: Document
    error: Annotated[float, Field(gt=0, le=100)] = ERROR_MM


@question("outcomes", Outcomes)
def how_likely(asked: OutcomesIn) -> Any:
    return outcomes(design_from(asked.document), asked.error)


class ToleranceIn(Payload):
    """How exact must each hole and each length be, where each is off by `error`?"""

    document: Document
    error: Annotated[float, Field(gt=0, le=1000)] = ERROR_MM


@question("tolerance", Tolerance)
def how_exact(asked: ToleranceIn) -> Any:
    with refusing("error"):
        return tolerance(design_from(asked.document), asked.error)


class FindIn(Payload):
    """Where may all mounts stand at once, inside every band and zone, with no link longer or shorter than is wanted?
    Sought for so many `seconds`, or `tries`, from a `seed`."""

    document: Document
    increment: Increment
    seconds: Annotated[float, Field(gt=0, le=300)] = 20.0
    tries: Annotated[int, Field(ge=1, le=10_000_000)] | None = None
    seed: Annotated[int, Field(ge=0, lt=2**31)] = 1
    longest: Annotated[float, Field(gt=0, le=LARGEST_MM)] = LARGEST_MM
    shortest: Annotated[float, Field(ge=0, le=LARGEST_MM)] = 0.0
    error: Annotated[float, Field(ge=0, le=100)] = ERROR_MM
    stock: Annotated[dict[str, Any] | None, Field(default=None)]
    """What bars are to be cut from; null: from any tube."""


@long_question("find", Search)
def find_places(asked: FindIn) -> Going:
    stock = stock_from(asked.stock)
    at_hand = None if stock is None else TubesAtHand(stock)
    demands = Demands(asked.longest, asked.shortest, asked.error, asked.increment, at_hand)
    found = None
    for found in find(design_from(asked.document), asked.seconds, asked.seed, demands, asked.tries):
        share = found.tried / asked.tries if asked.tries else found.seconds / asked.seconds
        yield SoFar(min(share, 1.0), found)
    return found
