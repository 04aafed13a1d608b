"""What a fit-up log comes to as a table that a person reads."""

from collections.abc import Iterator

from oak_lever.fit_up.fitted import Fitted


def fit_said(found: Fitted) -> Iterator[str]:
    """Mounts, lengths and the axle's figures: designed, as built."""
    yield found.design
    yield ""
    yield f"{'mount':<24}{'forward':>9}{'left':>9}{'up':>9}   off the design, mm"
    for name, one in found.mounts.items():
        if one.measured:
            yield f"{name:<24}" + "".join(f"{v + 0.0:>9.1f}" for v in one.off) + f"   +- {max(one.sigma):.1f}"
        else:
            yield f"{name:<24}{'not measured':>27}"
    yield ""
    yield f"{'bar':<24}{'designed':>10}{'made':>10}{'needed':>10}{'turns':>8}"
    for name, length in found.lengths.items():
        turns = "-" if length.turns is None else f"{length.turns + 0.0:.2f}"
        yield f"{name:<24}{length.designed:>10.1f}{length.made:>10.1f}{length.needed:>10.1f}{turns:>8}"
    yield ""
    if found.designed is None:
        yield "Nothing holds this axle."
    elif found.as_made is None:
        yield "With those mounts and lengths the axle cannot come to where it would stand."
    else:
        yield f"{'at ride':<24}{'designed':>10}{'as built':>10}"
        for figure, value in found.designed.items():
            yield f"{figure:<24}{_cell(value):>10}{_cell(found.as_made[figure]):>10}"
    yield from (f"take again: {one.reading}, off by {one.off:.1f} of its sigma" for one in found.suspect)


def _cell(value: float | None) -> str:
    return "-" if value is None else f"{value + 0.0:.2f}"
