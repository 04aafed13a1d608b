"""Lengths as a tape shows them, masses as a scale does. Everywhere else they are millimeters and kilograms."""

import math
from typing import Literal

Units = Literal["in16", "in32", "inch", "mm"]
MM_PER_INCH = 25.4
KG_PER_LB = 0.45359237
MPA_PER_KSI = 6.894757
NM_PER_LB_FT = 1.3558179
GRAVITY = 9.80665
"""Standard gravity, m/s^2."""


def length(mm: float, units: Units) -> str:
    """A length with its unit, never finer than a tape: ``9 1/4 in``, ``9.25 in``, ``235 mm``."""
    return f"{bare(mm, units)} {'mm' if units == 'mm' else 'in'}"


def bare(mm: float, units: Units) -> str:
    """A length as a tape shows it, without its unit."""
    if units == "mm":
        return _plain(mm, 0)
    if units == "inch":
        return _plain(mm / MM_PER_INCH, 2)
    return _fraction(mm / MM_PER_INCH, 16 if units == "in16" else 32)


def weight(kg: float, units: Units) -> str:
    """A mass as a scale shows it: ``450 kg``, ``992 lb``."""
    return f"{kg:.0f} kg" if units == "mm" else f"{kg / KG_PER_LB:.0f} lb"


def part_weight(kg: float, units: Units) -> str:
    """A mass of a part as a shop says it: ``1.2 kg``, ``2.6 lb``."""
    return f"{kg:.1f} kg" if units == "mm" else f"{kg / KG_PER_LB:.1f} lb"


def size(mm: float, units: Units) -> str:
    """A size of tube or plate as a list of stock has it: ``44.45 mm``, ``1 3/4 in``, ``0.188 in``."""
    if units == "mm":
        return f"{round(mm, 2):g} mm"
    inches = mm / MM_PER_INCH
    even = abs(inches * 16 - round(inches * 16)) < 0.02 and round(inches * 16) > 0
    return f"{_fraction(inches, 16)} in" if even else f"{inches:.3f} in"


def stress(mpa: float) -> str:
    """A stress as both kinds of book have it: ``350 MPa (51 ksi)``."""
    return f"{mpa:g} MPa ({mpa / MPA_PER_KSI:.0f} ksi)"


def torque(newton_meters: float, units: Units) -> str:
    """A torque as a wrench shows it: ``120 N·m``, ``89 lb·ft``."""
    return f"{newton_meters:.0f} N·m" if units == "mm" else f"{newton_meters / NM_PER_LB_FT:.0f} lb·ft"


N_PER_LBF = 4.4482216
N_MM_PER_LB_IN = N_PER_LBF / MM_PER_INCH
KPA_PER_PSI = 6.894757


def rate(newtons_a_millimeter: float, units: Units) -> str:
    """A spring's rate as its list has it: ``31.5 N/mm``, ``180 lb/in``."""
    return f"{newtons_a_millimeter:.1f} N/mm" if units == "mm" else f"{newtons_a_millimeter / N_MM_PER_LB_IN:.0f} lb/in"


def force(newtons: float, units: Units) -> str:
    """``4510 N``, ``1014 lb``."""
    return f"{newtons:.0f} N" if units == "mm" else f"{newtons / N_PER_LBF:.0f} lb"


def pressure(kilopascals: float, units: Units) -> str:
    """As a gauge shows it: ``520 kPa``, ``75 psi``."""
    return f"{kilopascals:.0f} kPa" if units == "mm" else f"{kilopascals / KPA_PER_PSI:.0f} psi"


STEP_MM: dict[Units, float] = {"mm": 1.0, "inch": 0.254, "in16": MM_PER_INCH / 16, "in32": MM_PER_INCH / 32}
"""What two neighboring figures of a tape are apart, mm."""


def shown(mm: float, units: Units) -> float:
    """The length that is meant by what a tape shows of it, mm."""
    step = STEP_MM[units]
    return math.copysign(math.floor(abs(mm) / step + 0.5) * step, mm)


def _plain(value: float, places: int) -> str:
    text = f"{abs(value):.{places}f}"
    return f"-{text}" if value < 0 and float(text) != 0 else text


def _fraction(inches: float, parts: int) -> str:
    over = int(abs(inches) * parts + 0.5)
    sign = "-" if inches < 0 and over else ""
    whole, over = divmod(over, parts)
    while over and over % 2 == 0:
        over, parts = over // 2, parts // 2
    part = f"{over}/{parts}" if over else ""
    return sign + (" ".join(filter(None, (str(whole) if whole or not part else "", part))))
