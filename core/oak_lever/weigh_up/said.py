"""The hole map, the tolerances and the finder's results as tables that a person reads."""

from collections.abc import Iterator

from oak_lever.figures.register import BY_ID, COLUMNS
from oak_lever.weigh_up.excluded import Excluded
from oak_lever.weigh_up.finder import Found, Search
from oak_lever.weigh_up.racks import Combination, HoleMap, Site
from oak_lever.weigh_up.tolerance import FIGURES, Slopes, Tolerance

_TITLES = {column.id: column.title for column in COLUMNS}


def holes_said(found: HoleMap) -> Iterator[str]:
    """The sites with their holes, then a line a combination, its holes numbered from 1."""
    yield found.design
    yield ""
    for n, site in enumerate(found.sites, 1):
        yield f"site {n}: {' and '.join(site.mounts)}, {_stands(site)}"
        yield from (
            f"  hole {k}: {x:.1f} ahead, {abs(y):.1f} out, {z:.1f} high" for k, (x, y, z) in enumerate(site.holes, 1)
        )
    yield ""
    yield f"{'':<16}{'links made to fit':<44}links as they are"
    heads = ("squat %", "dive %", "center at", "roll c.", "pinion swing", "pinion", "ahead", "squat %")
    yield f"{'holes':<16}" + "".join(f"{head:>{_WIDE[n]}}" for n, head in enumerate(heads))
    yield from (_line(one) for one in found.combinations)
    yield ""
    yield "mm and degrees; pinion: turned up, + , with every link as long as it is; ahead: where the axle then stands"


_WIDE = (9, 8, 11, 9, 14, 8, 8, 9)


def _stands(site: Site) -> str:
    return "in none of its holes now" if site.now is None else f"in hole {site.now + 1} now"


def _line(one: Combination) -> str:
    names = ("anti_squat", "anti_dive", "ic_length", "roll_center_height", "pinion_range")
    cells = [*(_cell(one.set, name) for name in names)]
    cells += [_cell(one.kept, name) for name in ("pinion_change", "axle_x", "anti_squat")]
    return f"{' '.join(str(at + 1) for at in one.at):<16}" + "".join(
        f"{cell:>{_WIDE[n]}}" for n, cell in enumerate(cells)
    )


def _cell(figures: dict[str, float | None] | None, name: str) -> str:
    value = None if figures is None else figures[name]
    return "-" if value is None else f"{round(value, 1) + 0.0:.1f}"


def tolerance_said(found: Tolerance) -> Iterator[str]:
    """What a millimeter at each mount and in each length does, and what all of them together may do."""
    yield found.design
    yield ""
    if found.mounts is None or found.lengths is None or found.worst is None or found.likely is None:
        yield "Nothing holds this axle: no hole is exact enough."
        return
    yield f"{'a millimeter':<26}" + "".join(f"{_TITLES.get(name, name):>12}" for name in FIGURES)
    for name, axes in found.mounts.items():
        for axis, slopes in axes.items():
            yield f"{f'{name} {_WAYS[axis]}':<26}" + _slopes(slopes)
    for name, slopes in found.lengths.items():
        yield f"{f'{name} longer':<26}" + _slopes(slopes)
    yield ""
    yield f"{f'all off {found.error:g} mm: worst':<26}" + _slopes(found.worst)
    yield f"{'as chance has it':<26}" + _slopes(found.likely)


_WAYS = {"x": "forward", "y": "left", "z": "up"}


def _slopes(slopes: Slopes) -> str:
    return "".join(f"{'-' if value is None else f'{value + 0.0:.4f}':>12}" for value in slopes.values())


def search_said(design: str, found: Search) -> Iterator[str]:
    """Each find with where its mounts are; or what excludes what."""
    yield design
    yield f"{found.tried} places tried, {found.judged} judged in full, {found.seconds:.0f} s"
    for n, one in enumerate(found.found, 1):
        yield ""
        yield from _found(n, one)
    if found.excluded is not None:
        yield ""
        yield from _excluded(found.excluded)


def _found(n: int, one: Found) -> Iterator[str]:
    tightest = f", the least on {BY_ID[one.tightest].name.lower()}" if one.tightest else ""
    yield f"find {n}: {100.0 * one.reserve:.0f} % of half a band left after the tape's error{tightest}"
    yield from (f"  {name:<24}{x:>9.1f} ahead {abs(y):>8.1f} out {z:>8.1f} high" for name, (x, y, z) in one.at.items())
    for up in one.gives_up:
        figure = BY_ID[up.figure]
        yield f"  gives up: {figure.name.lower()} {up.value:.1f}, where find {up.of + 1} has {up.other:.1f}"
    yield from (f"  to consider: {words}" for words in one.considers)
    yield from (f"  then wants stronger steel: {words[:1].lower()}{words[1:]}" for words in one.weak)


def _excluded(why: Excluded) -> Iterator[str]:
    yield "Of all places that were tried none fits."
    if why.unbuildable:
        yield "No place that was tried can be built: tubes, housing, tires, rails, zones or lengths are in the way."
    for miss in why.misses:
        figure, holds = BY_ID[miss.figure], BY_ID[miss.holding].name.lower() if miss.holding else ""
        beside = f" with {holds} in its band" if holds else ""
        yield f"{figure.name}{beside}: {miss.value:.2f} at the nearest, {miss.by:.2f} from {miss.edge:.2f}"
    for one in why.gives:
        way = {"x": ("forward", "back"), "y": ("left", "right"), "z": ("up", "down")}[one.axis][one.by < 0.0]
        yield f"It would come inside with {abs(one.by):.0f} mm more room {way} for {' and '.join(one.mounts)}."
    yield from (f"What else spoke against sound ones: {words}" for words in why.against)
