"""A design to start from: a layout's mounts worked out from what is known of the truck on the first day.

Proportions are house values: multiples of the tire's diameter, since tire, housing and links grow together. They
give a drawing to move mounts on; `oak_lever.move.start` makes it sound.
"""

from dataclasses import dataclass
from math import copysign, isfinite
from typing import Any, Literal

from oak_lever.design.axle import HOUSING_TUBES
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.links import TUBE_MM
from oak_lever.design.reader import design_from
from oak_lever.design.room import MOVING_GAP_MM
from oak_lever.design.types import Design, School, Use

LayoutName = Literal[
    "double_triangulated",
    "single_triangulated",
    "single_apex",
    "three_link_panhard",
    "parallel_panhard",
    "parallel_watts",
    "parallel_slider",
    "radius_arms_panhard",
    "trailing_arms",
]


@dataclass(frozen=True)
class Known:
    """What is measured before anything is designed; mm. `rail_underside` is the rails' height off the floor at ride.
    The loaded radius and the center of gravity's height are guessed from these where they are not known."""

    end: Literal["rear", "front"]
    tire_diameter: float
    track: float
    wheelbase: float
    rail_underside: float
    rail_width: float
    cg_height: float | None = None
    tire_radius_loaded: float | None = None


_TRAVEL: dict[Use, tuple[float, float, float]] = {
    "crawling": (0.13, 0.2, 12.0),
    "trail": (0.12, 0.16, 10.0),
    "street": (0.08, 0.1, 6.0),
    "strip": (0.05, 0.05, 4.0),
    "desert": (0.25, 0.3, 12.0),
}
"""Bump and droop in tire diameters, articulation in degrees."""

_WINDOW_MM = 1200.0  # in the middle of the strip's window of instant center lengths

_LOW_USES: dict[str, tuple[Use, ...]] = {
    "single_triangulated": ("street", "strip"),
    "trailing_arms": ("street", "strip"),
    "double_triangulated": ("street", "strip"),
    "single_apex": ("crawling", "trail", "street", "strip", "desert"),
}
"""Where the uppers must come down ahead of the housing, for the roll center's sake."""

_LOWER_X = 0.03
"""The lower links' axle mounts stand ahead of the tube, in tire diameters, so that a rising link leads away from it."""

_BRACKET_MM = 8.0
"""What a bracket needs beside a tube or a rail."""

Spot = tuple[float, float, float]


def drawn_start(
    name: str, layout: LayoutName, school: School, known: Known, use: Use = "trail", increment_mm: float = 1.0
) -> Design:
    """A design of that layout and school, for that use, its mounts on whole increments, as proportions give it.

    Raises:
        Refused: when the measures are out of all proportion (a size not positive, two mounts at one point).
    """
    drawn = _Start(layout, school, known, use, increment_mm)
    return design_from({**drawn.data(name), "use": use, "school": school})


RAIL_WIDTH_MM = 860.0


def drawn_parts(design: Design, layout: LayoutName, increment_mm: float) -> tuple[list[dict[str, Any]], Any]:
    """The links and the locator of that layout as proportions give them for a design's truck, school and use: plain
    values of the file, on whole increments.

    Raises:
        Refused: where the truck's measures are out of all proportion.
    """
    axle, rails = design.axle, design.rails
    guessed = min(axle.tire_radius_loaded + design.travel.bump + axle.tube_diameter, 650.0)
    known = Known(
        axle.end, axle.tire_diameter, axle.track, design.vehicle.wheelbase,
        rails.underside if rails else guessed, rails.outside_width if rails else RAIL_WIDTH_MM,
        design.vehicle.cg_height, axle.tire_radius_loaded,
    )  # fmt: skip
    data = _Start(layout, design.school or "numbers_first", known, design.use or "trail", increment_mm).data("")
    return data["links"], data["lateral"]


class _Start:
    """Works forward of a rear axle; a front axle is its mirror image fore and aft."""

    def __init__(self, layout: LayoutName, school: School, known: Known, use: Use, increment_mm: float) -> None:
        self.layout, self.school, self.known, self.use = layout, school, known, use
        self.increment_mm = increment_mm
        d = known.tire_diameter
        self.d = d
        self.tube = round(0.095 * d, 1)
        self.radius = known.tire_radius_loaded or 0.475 * d
        self.cg_height = known.cg_height or known.rail_underside + 0.33 * d
        clear = (self.tube + TUBE_MM) / 2.0 + MOVING_GAP_MM + increment_mm
        self.low, self.high, self.upper_x = self.radius - max(0.06 * d, clear), self.radius + 0.225 * d, 0.03 * d
        if use in _LOW_USES.get(layout, ()):
            # uppers that meet over the axle set the roll center: low, they must stand ahead of the housing
            need = HOUSING_TUBES * self.tube / 2.0 + TUBE_MM / 2.0 + 2.0 * MOVING_GAP_MM
            ahead = max(0.125 * d, max(need**2 - (0.1 * d) ** 2, 0.0) ** 0.5)
            self.low, self.high, self.upper_x = self.radius - 0.155 * d, self.radius + 0.1 * d, ahead
        long = 1.3 if layout == "trailing_arms" else 1.15 if school == "flat_and_long" else 1.05
        self.lower_run, self.upper_run = long * d, self._upper_run(long) * d

    def _upper_run(self, long: float) -> float:
        return {"hold_pinion": long, "short_upper": 0.75 * long, "flat_and_long": long - 0.1}.get(
            self.school, 0.8 * long
        )

    def data(self, name: str) -> dict[str, Any]:
        known, d = self.known, self.d
        return {
            "format": "oak-lever-design",
            "version": 1,
            "name": name,
            "notes": "",
            "axle": {
                "end": known.end,
                "tire_diameter": d,
                "tire_radius_loaded": round(self.radius, 1),
                "tire_width": round(0.33 * d, 1),
                "track": known.track,
                "tube_diameter": self.tube,
                "mass": 220.0,
                "pinion": {"joint": self._spot((0.34 * d, 0.0, self.radius + 0.04 * d)), "angle": 6.0},
                "caster": 6.0 if known.end == "front" else None,
            },
            "vehicle": {
                "wheelbase": known.wheelbase,
                "mass": 2400.0,
                "front_share": 0.53,
                "cg_height": round(self.cg_height, 1),
                "drive_share": 1.0,
                "brake_share": 0.62 if known.end == "front" else 0.38,
            },
            "travel": self._travel(),
            "links": self._links(),
            "lateral": self._lateral(),
            "rails": {
                "outside_width": known.rail_width,
                "depth": round(0.16 * d, 1),
                "flange": round(0.068 * d, 1),
                "underside": known.rail_underside,
            },
        }

    def _travel(self) -> dict[str, float]:
        """What the use asks for; no more articulation than bushed ends take where the layout gives in roll."""
        bump, droop, articulation = _TRAVEL[self.use]
        gives = self.layout.startswith("parallel")
        most = 5.0 if self.layout == "radius_arms_panhard" else 6.0 if gives else 90.0
        if gives and self.school == "window":  # links that converge so soon give the more
            most = 3.5
        return {
            "bump": round(bump * self.d, 1),
            "droop": round(droop * self.d, 1),
            "articulation": min(articulation, most),
        }

    # side view: where the links point

    def _frame_height(self, height: float, run: float) -> float:
        """Height of a frame mount `run` ahead of an axle mount: on the school's line through that mount."""
        if self.school == "flat_and_long" and self.use != "strip":  # a strip start wants more than level links give
            return height
        if self.school == "hold_pinion":
            return height + run * self._rise(0.6)
        ahead = {"converge_on_a_point": 0.92 * self.known.wheelbase, "window": _WINDOW_MM}.get(
            self.school, 1.05 * self.known.wheelbase
        )
        support = 1.1 if self.school == "window" or self.use == "strip" else 0.7
        return height + run / ahead * (self._rise(support) * ahead - height)

    def _rise(self, support: float) -> float:
        """Slope from the contact patch of a line that gives this part of the neutral line's: anti-squat / 100."""
        return support * self.cg_height / self.known.wheelbase

    # the layouts

    def _links(self) -> list[dict[str, Any]]:
        width, d = self.known.rail_width, self.d
        wide = min(0.32 * self.known.track, self.known.track / 2 - 0.28 * d)
        outer = min(0.5 * width + 0.06 * d, wide)
        close, apart = 0.07 * d, min(0.47 * width, 0.5 * width - 0.068 * d - _BRACKET_MM)
        if self.layout == "radius_arms_panhard":
            return self._arms(outer)
        if self.layout == "double_triangulated":
            return self._pair("lower", wide, 0.33 * width) + self._pair("upper", close, apart)
        if self.layout == "trailing_arms":
            return self._pair("lower", self.known.track / 2 - 0.24 * d, 0.45 * width) + self._pair(
                "upper", close, apart
            )
        if self.layout == "single_triangulated":
            return self._pair("lower", outer, outer) + self._pair("upper", close, apart)
        if self.layout == "single_apex":
            return self._pair("lower", outer, outer) + self._pair("upper", 0.0, apart)
        if self.layout == "three_link_panhard":
            return [*self._pair("lower", wide, 0.45 * width), self._bar("upper", "upper", -0.2 * d, -0.24 * d)]
        return self._pair("lower", outer, outer) + self._pair("upper", outer, outer)

    def _pair(self, kind: str, at_axle: float, at_frame: float) -> list[dict[str, Any]]:
        return [
            self._bar(f"{kind}-{side}", kind, sign * at_axle, sign * at_frame)
            for side, sign in (("left", 1), ("right", -1))
        ]

    def _bar(self, name: str, kind: str, at_axle: float, at_frame: float) -> dict[str, Any]:
        x, z, run = (
            (self.upper_x, self.high, self.upper_run)
            if kind == "upper"
            else (_LOWER_X * self.d, self.low, self.lower_run)
        )
        height = self._frame_height(z, run)
        frame = (x + run, self._beside_rail(at_frame, height), height)
        return {
            "id": name,
            "kind": kind,
            "axle": {"at": self._spot((x, at_axle, z))},
            "frame": {"at": self._spot(frame)},
        }

    def _beside_rail(self, y: float, z: float) -> float:
        """As far out, or inside the rail where it would stand in it."""
        outer, depth, flange = 0.5 * self.known.rail_width, round(0.16 * self.d, 1), round(0.068 * self.d, 1)
        level = self.known.rail_underside - _BRACKET_MM < z < self.known.rail_underside + depth + _BRACKET_MM
        within = outer - flange - _BRACKET_MM - self.increment_mm
        return copysign(within, y) if level and within < abs(y) < outer + _BRACKET_MM else y

    def _arms(self, out: float) -> list[dict[str, Any]]:
        d, arms = self.d, []
        for side, sign in (("left", 1), ("right", -1)):
            bolts = [(0.12 * d, sign * out, self.radius + 0.03 * d), (-0.12 * d, sign * out, self.radius - 0.02 * d)]
            height = 1.1 * d * self._rise(0.8)
            eye = (1.1 * d, self._beside_rail(sign * 0.45 * self.known.rail_width, height), height)
            arm = {"id": f"arm-{side}", "kind": "radius_arm", "axle": {"at": [self._spot(b) for b in bolts]}}
            arms.append({**arm, "frame": {"at": self._spot(eye)}})
        return arms

    def _lateral(self) -> dict[str, Any] | None:
        d, half = self.d, 0.48 * self.known.rail_width
        # clear of the housing, also when it turns under the bar
        back = -max(0.17 * d, HOUSING_TUBES * self.tube / 2.0 + TUBE_MM / 2.0 + 2.0 * MOVING_GAP_MM)
        if self.layout.endswith("panhard"):
            height = self.radius + 0.1 * d
            half = self._beside_rail(half, height)
            return {
                "kind": "panhard",
                "axle": {"at": self._spot((back, -half, height))},
                "frame": {"at": self._spot((back, half, height))},
            }
        if self.layout == "parallel_watts":
            return self._watts((back, 0.0, self.radius + 0.02 * d), round(0.085 * d, 1), 0.52 * self.known.rail_width)
        if self.layout == "parallel_slider":
            return {"kind": "slider", "axle": {"at": self._spot((-0.16 * d, 0.0, self.radius + 0.06 * d))}}
        return None

    def _watts(self, pivot: Spot, arm: float, half: float) -> dict[str, Any]:
        x, _, z = pivot
        left, right = (self._beside_rail(half, z + hand * arm) for hand in (1, -1))
        return {
            "kind": "watts",
            "pivot": {"on": "axle", "at": self._spot(pivot)},
            "arm": arm,
            "tilt": 0.0,
            "left": {"at": self._spot((x, left, z + arm))},
            "right": {"at": self._spot((x, -right, z - arm))},
        }

    def _spot(self, point: Spot) -> list[float]:
        forward = 1 if self.known.end == "rear" else -1
        x, y, z = point
        step = self.increment_mm
        if not all(isfinite(value / step) for value in point):
            raise Refused([Fault("vehicle", "no layout can be drawn for these: see the wheelbase and the heights")])
        return [round(forward * x / step) * step, round(y / step) * step, round(z / step) * step]
