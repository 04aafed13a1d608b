"""Known layouts with realistic mounts, one of each kind: what tests, documents and new designs start from."""

from collections.abc import Sequence
from typing import Any

from oak_lever.design.reader import design_from
from oak_lever.design.types import Design

P = tuple[float, float, float]


def _pair(name: str, axle: P, frame: P) -> list[dict[str, Any]]:
    def one(side: str, sign: int) -> dict[str, Any]:
        return {
            "id": f"{name}-{side}",
            "kind": name,
            "axle": {"at": [axle[0], sign * axle[1], axle[2]]},
            "frame": {"at": [frame[0], sign * frame[1], frame[2]]},
        }

    return [one("left", 1), one("right", -1)]


def _arms(bolts: tuple[P, P], frame: P) -> list[dict[str, Any]]:
    def one(side: str, sign: int) -> dict[str, Any]:
        return {
            "id": f"arm-{side}",
            "kind": "radius_arm",
            "axle": {"at": [[x, sign * y, z] for x, y, z in bolts]},
            "frame": {"at": [frame[0], sign * frame[1], frame[2]]},
        }

    return [one("left", 1), one("right", -1)]


def _link(name: str, kind: str, axle: P, frame: P) -> dict[str, Any]:
    return {"id": name, "kind": kind, "axle": {"at": list(axle)}, "frame": {"at": list(frame)}}


def _panhard(axle: P, frame: P) -> dict[str, Any]:
    return {"kind": "panhard", "axle": {"at": list(axle)}, "frame": {"at": list(frame)}}


def _watts(on: str) -> dict[str, Any]:
    return {
        "kind": "watts",
        "pivot": {"on": on, "at": [-120.0, 0.0, 400.0]},
        "arm": 80.0,
        "tilt": 0.0,
        "left": {"at": [-120.0, 520.0, 480.0]},
        "right": {"at": [-120.0, -520.0, 320.0]},
    }


_LOWERS = _pair("lower", (-20.0, 510.0, 400.0), (960.0, 360.0, 460.0))
_UPPERS = _pair("upper", (30.0, 110.0, 640.0), (780.0, 420.0, 630.0))
_LEVEL_LOWERS = _pair("lower", (-20.0, 480.0, 400.0), (960.0, 480.0, 440.0))
_LEVEL_UPPERS = _pair("upper", (-10.0, 480.0, 620.0), (700.0, 480.0, 610.0))
_ARMS = _arms(((110.0, 450.0, 470.0), (-110.0, 450.0, 440.0)), (1050.0, 400.0, 500.0))
_BAR = _panhard((-150.0, 430.0, 520.0), (-150.0, -430.0, 540.0))

LAYOUTS: dict[str, tuple[Sequence[dict[str, Any]], dict[str, Any] | None]] = {
    "double triangulated": (_LOWERS + _UPPERS, None),
    "single triangulated": (_LEVEL_LOWERS + _UPPERS, None),
    "single apex": (
        [
            *_LEVEL_LOWERS,
            _link("upper-left", "upper", (20.0, 0.0, 660.0), (740.0, 410.0, 640.0)),
            _link("upper-right", "upper", (20.0, 0.0, 660.0), (740.0, -410.0, 640.0)),
        ],
        None,
    ),
    "three links and panhard": (
        [*_LOWERS, _link("upper", "upper", (10.0, -180.0, 640.0), (720.0, -210.0, 630.0))],
        _BAR,
    ),
    "parallel and panhard": (_LEVEL_LOWERS + _LEVEL_UPPERS, _BAR),
    "parallel and watts on axle": (_LEVEL_LOWERS + _LEVEL_UPPERS, _watts("axle")),
    "parallel and watts on frame": (_LEVEL_LOWERS + _LEVEL_UPPERS, _watts("frame")),
    "parallel and slider": (_LEVEL_LOWERS + _LEVEL_UPPERS, {"kind": "slider", "axle": {"at": [0.0, 0.0, 600.0]}}),
    "three links and watts": (
        [*_LOWERS, _link("upper", "upper", (10.0, -180.0, 640.0), (720.0, -210.0, 630.0))],
        _watts("axle"),
    ),
    "radius arms and panhard": (_ARMS, _BAR),
}
FREE = ("double triangulated", "single triangulated", "single apex", "three links and panhard", "three links and watts")
GIVING = tuple(name for name in LAYOUTS if name not in FREE)


def layout(name: str, **changes: Any) -> Design:
    """A design of the named layout on a mid-size truck's rear axle; `changes` replace top-level keys of the file.

    Raises:
        KeyError: for a name that is not in `LAYOUTS`.
    """
    links, lateral = LAYOUTS[name]
    return design_from(
        {
            "format": "oak-lever-design",
            "version": 1,
            "name": name.capitalize(),
            "axle": {
                "end": "rear",
                "tire_diameter": 940.0,
                "tire_radius_loaded": 450.0,
                "tire_width": 315.0,
                "track": 1680.0,
                "tube_diameter": 89.0,
                "mass": 230.0,
                "pinion": {"joint": [320.0, 0.0, 490.0], "angle": 7.0},
            },
            "vehicle": {
                "wheelbase": 2900.0,
                "mass": 2600.0,
                "front_share": 0.53,
                "cg_height": 820.0,
                "drive_share": 1.0,
                "brake_share": 0.37,
            },
            "travel": {"bump": 120.0, "droop": 160.0, "articulation": 10.0},
            "links": list(links),
            "lateral": lateral,
            **changes,
        }
    )
