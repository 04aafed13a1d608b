"""The figures as a page to read, from their register: ``python -m oak_lever.figures.page``."""

from collections.abc import Iterator

from oak_lever.figures.register import FIGURES, USES, Figure, Limits, Of

_UNITS = {"mm": "mm", "deg": "°", "percent": "%", "ratio": "×", "hz": " Hz", "n": " N", "n_mm": " N/mm"}
_SCALES = {
    "tire_radius": " × loaded tire radius",
    "tire_diameter": " × tire diameter",
    "separation_axle": " × separation",
}


def page() -> str:
    """Every registered figure: what it is, what is wanted of it and why, who would disagree; as Markdown."""
    return "\n".join([_HEAD, *(line for figure in FIGURES for line in _section(figure))])


_HEAD = """# Figures

Every figure that is read or judged, as the register (`core/oak_lever/figures/`) has it. Bands are house
values, set by use; a truck's own replace them one by one. This page is made from the register: `make contract`.
"""


_OF: dict[Of, str] = {
    "shock": "shock", "stop": "stop", "strap": "strap", "bar": "anti-roll bar", "shaft": "shaft",
    "steering": "steering", "mount": "mount",
}  # fmt: skip


def _section(figure: Figure) -> Iterator[str]:
    of = f"{figure.end} axle" if figure.end else _OF.get(figure.of)
    where = f" ({of})" if of else ""
    yield f"## {figure.name}{where}\n"
    yield f"{figure.meaning}\n"
    verdict = figure.verdict
    if verdict is None:
        return
    if figure.how is None and all(band == (None, None) for band in verdict.bands.values()):
        yield f"- Where it is so: *{verdict.severity}*.\n"
        return
    unit = _SCALES[verdict.scale] if verdict.scale else f" {_UNITS[figure.unit]}"
    yield "| " + " | ".join(USES.values()) + " |\n|" + " --- |" * len(USES)
    yield "| " + " | ".join(_said(verdict.bands[use], unit) for use in USES) + " |\n"
    yield from (f"- {side}: {why}" for side, why in (("Low", verdict.why_low), ("High", verdict.why_high)) if why)
    yield f"- Outside its band: *{verdict.severity}*. Who would disagree: {verdict.disagrees}\n"


def _said(band: Limits, unit: str) -> str:
    low, high = band
    if low is not None and high is not None:
        return f"{low:g} to {high:g}{unit}"
    if low is not None:
        return f"{low:g}{unit} or more"
    return "no band" if high is None else f"{high:g}{unit} or less"


if __name__ == "__main__":
    print(page(), end="")
