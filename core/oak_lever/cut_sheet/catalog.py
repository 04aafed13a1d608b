"""Generic ends and steels to begin with: common sizes, no maker's. Check your maker's figure."""

from oak_lever.design.loads import JointKind, Material
from oak_lever.design.materials import HOUSE_MATERIAL


def _rod_end(
    words: str, size: tuple[float, float], lengths: tuple[float, float, float, float], fits: tuple[float, float]
) -> JointKind:
    thread, pitch = size
    shank, shoulder, nut, least_in = lengths
    end = {
        "kind": "threaded", "shank": shank, "shoulder": shoulder, "nut": nut, "least_in": least_in, "pitch": pitch,
        "flange": 6.35, "thread": thread, "yield": 600.0,
    }  # fmt: skip
    return JointKind.model_validate(
        {"name": words, "limit": 28.0, "give": 0.0, "width": fits[0], "bolt": fits[1], "end": end}
    )


def _eye(words: str, limit: float, give: float, width: float, bolt: float, outside: float) -> JointKind:
    end = {"kind": "sleeve", "outside": outside}
    return JointKind.model_validate(
        {"name": words, "limit": limit, "give": give, "width": width, "bolt": bolt, "end": end}
    )


ENDS: dict[str, JointKind] = {
    "rod_end_19": _rod_end("Rod end, 3/4-16 thread, spaced", (19.05, 1.5875), (73.0, 22.0, 11.0, 23.8), (57.15, 12.7)),
    "rod_end_22": _rod_end(
        "Rod end, 7/8-14 thread, spaced", (22.225, 1.8143), (82.0, 26.0, 12.7, 27.8), (63.5, 14.2875)
    ),
    "rod_end_32": _rod_end(
        "Rod end, 1-1/4-12 thread, spaced", (31.75, 2.1167), (108.0, 34.0, 16.0, 39.7), (66.675, 15.875)
    ),
    "bushed_eye_57": _eye("Bushed eye, sleeve 2-1/4 outside", 12.0, 2.0, 66.675, 14.2875, 57.15),
    "sphere_eye_64": _eye("Spherical eye in plastic races, sleeve 2-1/2 outside", 18.0, 0.3, 66.675, 14.2875, 63.5),
}
"""Entries for a design's joint catalog, with how their ends are made (lengths of common rod ends, rounded)."""

STEELS: dict[str, Material] = {
    "seamless_mild": HOUSE_MATERIAL,
    "drawn_mild": Material.model_validate(
        {"name": "Mild steel, drawn over a mandrel", "yield": 480.0, "modulus": 205_000.0, "density": 7850.0}
    ),
    "chromoly": Material.model_validate(
        {"name": "Chromium-molybdenum steel, normalized", "yield": 435.0, "modulus": 205_000.0, "density": 7850.0}
    ),
}
"""Textbook values of common tubes (as delivered, away from welds)."""
