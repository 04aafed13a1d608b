"""Bars, brackets and nests as tables that a person reads."""

from collections.abc import Iterator
from math import floor

from oak_lever.cut_sheet.bars import CutBar
from oak_lever.cut_sheet.cut import Cut
from oak_lever.cut_sheet.nest import Nest


def cut_said(found: Cut) -> Iterator[str]:
    """A line a bar and a plate, then what is cut from what."""
    yield found.design
    yield ""
    heads = ("centers", "cut", "stock", "shorter", "longer", "a turn", "kg")
    yield f"{'bar':<20}{'tube':>14}" + "".join(f"{head:>10}" for head in heads)
    for bar in found.bars:
        yield from _bar(bar)
    if found.brackets:
        yield ""
        yield f"{'plate':<20}{'thick':>8}{'mm2':>10}{'kg':>8}{'holes':>7}{'saddle':>9}{'gap':>8}{'grip':>8}"
    for bracket in found.brackets:
        for plate in bracket.plates:
            wrap = "-" if plate.wrap is None else f"{plate.wrap:.1f}"
            like = f"  cut like {plate.same_as}" if plate.same_as else ""
            yield (
                f"{plate.part:<20}{plate.thickness:>8g}{plate.area:>10.1f}{plate.mass:>8.3f}{len(plate.holes):>7}"
                f"{wrap:>9}{bracket.gap:>8.1f}{bracket.grip:>8.1f}{like}"
            )
    if found.truss:
        yield ""
        yield f"{'truss':<20}{'thick':>8}{'mm2':>10}{'kg':>8}"
    for plate in found.truss:
        like = f"  cut like {plate.same_as}" if plate.same_as else ""
        yield f"{plate.part:<20}{plate.thickness:>8g}{plate.area:>10.1f}{plate.mass:>8.3f}{like}"
    if found.nest:
        yield ""
        yield from _nest(found.nest)


def _bar(bar: CutBar) -> Iterator[str]:
    shorter, longer = bar.adjust or (None, None)
    values = (bar.center_to_center, bar.cut_length, bar.stock_length, shorter, longer, bar.per_turn)
    cells = "".join(f"{'-' if value is None else f'{value:.1f}':>10}" for value in values)
    mass = "-" if bar.mass is None else f"{bar.mass:.2f}"
    guess = "  tube guessed" if bar.guessed else ""
    yield f"{bar.id:<20}{f'{bar.tube.diameter:g} x {bar.tube.wall:g}':>14}{cells}{mass:>10}{guess}"
    hands = [f"{hand} at the {end}" for end, hand in bar.hands.items() if hand]
    if hands:
        yield f"{'':<20}threads: {', '.join(hands)}"
    for n, bend in enumerate(bar.bends, 1):
        yield (
            f"{'':<20}bend {n}: {bend.straight:.1f} straight, then {bend.angle:.1f} degrees, plane turned "
            f"{bend.rotation:.1f}"
        )
    if bar.bends:
        yield f"{'':<20}then {bar.last_straight:.1f} straight; {bar.developed:.1f} along the tube"


def _nest(nest: Nest) -> Iterator[str]:
    for tube in nest.bars:
        yield f"tube of stock {tube.stock + 1}: {', '.join(tube.pieces)}; {floor(tube.rest)} left"
    for sheet in nest.plates:
        yield f"sheet of stock {sheet.stock + 1}: {', '.join(one.part for one in sheet.parts)}"
    for part, why in nest.left_over:
        yield f"no place for {part}: {why}"
