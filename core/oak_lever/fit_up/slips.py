"""What slip would explain a reading that does not fit."""

from math import hypot

from oak_lever.design.fit import Along, Apart, FitLog
from oak_lever.design.parts import words_of
from oak_lever.design.types import Design
from oak_lever.fit_up.as_built import AsBuilt, as_built
from oak_lever.fit_up.readings import in_mm
from oak_lever.units import MM_PER_INCH

_FITS_SIGMAS = 2.0
_AXES = {"ahead": 0, "left": 1, "height": 2}


def slips(design: Design, log: FitLog, suspects: list[str]) -> dict[str, str]:
    """By the id of each suspect reading that a common slip explains: which. Each is judged by what all other readings
    say: one inch, ten millimeters, inches for millimeters, the wrong side or sign, or another mount."""
    found: dict[str, str] = {}
    for name in suspects:
        one = next(reading for reading in log.readings if reading.id == name)
        if not isinstance(one, Along | Apart):
            continue
        rest = tuple(reading for reading in log.readings if reading.id != name)
        built = as_built(design, log.model_copy(update={"readings": rest}))
        why = _why(one, _expected(one, built), built)
        if why is not None:
            found[name] = why
    return found


def _expected(one: Along | Apart, built: AsBuilt) -> tuple[float, float]:
    """What the others say it should read, and how sure, mm."""
    k = built.names.index(one.of)
    if isinstance(one, Along):
        a = 3 * k + _AXES[one.kind]
        return float(built.at[k, _AXES[one.kind]]), float(built.covariance[a, a]) ** 0.5
    j = built.names.index(one.to)
    span = built.at[k] - built.at[j]
    long = float((span @ span) ** 0.5)
    way = span / max(long, 1e-9)
    own = [3 * k + a for a in range(3)] + [3 * j + a for a in range(3)]
    h = [*way, *(-way)]
    return long, float(h @ built.covariance[own][:, own] @ h) ** 0.5


def _why(one: Along | Apart, expected: tuple[float, float], built: AsBuilt) -> str | None:
    value, sigma = in_mm(one)
    said, sure = expected
    close = _FITS_SIGMAS * hypot(sigma, sure)

    def fits(other: float) -> bool:
        return abs(other - said) <= close

    if fits(-value) and abs(value) > close:
        return "its sign or side is turned about"
    for slip, words in ((MM_PER_INCH, "an inch"), (10.0, "ten millimeters")):
        for way, more in ((slip, "too little"), (-slip, "too much")):
            if fits(value + way):
                return f"it reads {words} {more}"
    if fits(value * MM_PER_INCH):
        return "it is in inches, written as millimeters"
    if fits(value / MM_PER_INCH):
        return "it is in millimeters, written as inches"
    if isinstance(one, Along):
        axis = _AXES[one.kind]
        for k, name in enumerate(built.names):
            if name != one.of and abs(float(built.at[k, axis]) - value) <= _FITS_SIGMAS * sigma:
                return f"it would fit {words_of(name.replace('.', ', '))}"
    return None
