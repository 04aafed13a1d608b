"""The load cases and the factors of every part as tables that a person reads."""

from collections.abc import Iterator

from oak_lever.figures.register.loads import WANTED, WANTED_ABUSED
from oak_lever.strength.loads import Carried, Reckoned

_FACTORS = ("yield", "buckling", "joint_axle", "joint_frame", "bolt_axle", "bolt_frame", "shank_axle", "shank_frame")


def loads_said(found: Reckoned) -> Iterator[str]:
    """A line a case, with the springs and the force in each part; then the worst factor of each bar, and of which."""
    yield found.design
    yield ""
    for one in found.cases:
        yield from _case(one)
    yield ""
    yield f"{'bar':<24}{'least factor':>14}  of what, in which case"
    for name in dict.fromkeys(name for one in found.cases for name in one.strength or ()):
        yield _worst(found, name)
    for name, rock in found.rock.items():
        yield f"{f'{name} on a rock':<24}{rock['yield']:>14.2f}  yield, at {rock['moment'] / 1000.0:.0f} N m"
    yield ""
    yield f"wanted: {WANTED:g}; in abuse and on a rock {WANTED_ABUSED:g} (house values)"
    yield "N; + pulls a bar's ends together, - presses it; tubes that say no material are taken as mild steel, a guess"


def _case(one: Carried) -> Iterator[str]:
    case = one.case
    where = f" at {case.travel:g} mm of travel" if case.travel else ""
    abuse = ", abuse" if case.abuse else ""
    if one.forces is None or one.springs is None:
        yield f"{case.id}{where}{abuse}: nothing balances"
        return
    pulls = [side for side, force in one.springs.items() if force < 0.0]
    yield f"{case.id}{where}{abuse}: springs {one.springs['left']:.0f} left, {one.springs['right']:.0f} right"
    if pulls:
        yield f"  {' and '.join(pulls)}: a strap or a shock would have to pull"
    if one.bind:
        yield f"  the links give {one.bind:.2f} mm there, which no force here counts"
    for name, forces in one.forces.items():
        yield f"  {name:<22}" + "  ".join(f"{key} {value:.0f}" for key, value in forces.items())


def _worst(found: Reckoned, name: str) -> str:
    """The factor that comes nearest to what is wanted of it, or falls farthest short."""
    every = [
        (value / (WANTED_ABUSED if one.case.abuse else WANTED), value, what, one.case.id)
        for one in found.cases if one.strength is not None
        for what in _FACTORS if (value := one.strength[name][what]) is not None
    ]  # fmt: skip
    if not every:
        return f"{name:<24}{'-':>14}"
    short, value, what, case = min(every)
    shortly = "" if short >= 1.0 else ": short of what is wanted"
    return f"{name:<24}{value:>14.2f}  {what.replace('_', ', ')}, {case}{shortly}"
