"""The layout changed in place: a link added, left out or made another kind, the locator exchanged; all else is kept.

What is added stands where proportions put it for this truck: a place to move it from, not a finished one.
"""

from typing import Any, Literal

from oak_lever.design.faults import Fault, Refused
from oak_lever.design.parts import parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.start import LayoutName, drawn_parts
from oak_lever.design.types import Design

Data = dict[str, Any]
Locator = Literal["none", "panhard", "watts_on_axle", "watts_on_frame", "slider"]
LinkKind = Literal["lower", "upper", "radius_arm"]
Side = Literal["left", "right", "center"]
_LAYOUTS: dict[str, LayoutName] = {
    "panhard": "parallel_panhard", "watts_on_axle": "parallel_watts", "watts_on_frame": "parallel_watts",
    "slider": "parallel_slider", "lower": "single_triangulated", "upper": "double_triangulated",
    "radius_arm": "radius_arms_panhard",
}  # fmt: skip
_BOLTS_MM = 100.0
"""How far ahead of and behind a link's axle mount the bolts of an arm are set that takes its place."""


def with_locator(design: Design, kind: Locator, increment_mm: float) -> Design:
    """Another locator, at the station and height of the one it takes the place of, and with its tube; or none."""
    data, old = design_data(design), design.lateral
    for name in ("panhard", "watts", "watts-left", "watts-right", "slider"):
        forget(data, name)
    data["lateral"] = None
    if kind != "none":
        _, lateral = drawn_parts(design, _LAYOUTS[kind], increment_mm)
        if kind == "watts_on_frame":
            lateral["pivot"]["on"] = "frame"
        if old is not None:
            _shift(lateral, _middle(_points(design_data(design)["lateral"])), _middle(_points(lateral)), increment_mm)
            tube = getattr(old, "tube", None)
            if tube is not None and kind != "slider":
                lateral["tube"] = {"diameter": tube.diameter, "wall": tube.wall}
        data["lateral"] = lateral
    return design_from(data)


def _points(lateral: Data) -> list[list[float]]:
    parts = [lateral[key]["at"] for key in ("pivot", "axle", "frame", "left", "right") if key in lateral]
    return parts[:1] if "pivot" in lateral else parts


def _middle(points: list[list[float]]) -> tuple[float, float]:
    return (sum(p[0] for p in points) / len(points), sum(p[2] for p in points) / len(points))


def _shift(lateral: Data, to: tuple[float, float], come_from: tuple[float, float], step: float) -> None:
    """Fore-aft and up, in whole increments: a bar that was level stays level."""
    ahead, up = (round((a - b) / step) * step for a, b in zip(to, come_from, strict=True))
    for key in ("pivot", "axle", "frame", "left", "right"):
        if key in lateral:
            x, y, z = lateral[key]["at"]
            lateral[key]["at"] = [x + ahead, y, z + up]


def with_link(design: Design, kind: LinkKind, side: Side, increment_mm: float) -> Design:
    """A link more: the mirror image of the one on the other side, where that stands alone; else by proportions."""
    data = design_data(design)
    other = _alone(design, kind, side)
    if other is not None:
        link = _mirrored(next(one for one in data["links"] if one["id"] == other))
    else:
        drawn, _ = drawn_parts(design, _LAYOUTS[kind], increment_mm)
        link = next(one for one in drawn if one["kind"] == kind)
        if side == "center":
            for end in ("axle", "frame"):
                _each(link[end], lambda p: [p[0], 0.0, p[2]])
        elif side == "right":
            link = _mirrored(link)
    wanted = kind.replace("radius_", "") + ("" if side == "center" else f"-{side}")
    link["id"] = _unused(design, link["id"] if other is not None else wanted)
    data["links"].append(link)
    return design_from(data)


def _alone(design: Design, kind: str, side: Side) -> str | None:
    """A link of that kind on the other side, where there are more of them there than on this one."""
    hand = {"left": 1.0, "right": -1.0, "center": 0.0}[side]
    sides: dict[float, list[str]] = {1.0: [], -1.0: [], 0.0: []}
    for body in parts_of(design).bodies:
        if body.kind == kind:
            across = body.a.at[1] + body.b.at[1]
            sides[1.0 if across > 0 else -1.0 if across < 0 else 0.0].append(body.id)
    return sides[-hand][-1] if hand and len(sides[-hand]) > len(sides[hand]) else None


def _each(mount: Data, change: Any) -> None:
    at = mount["at"]
    mount["at"] = [change(p) for p in at] if isinstance(at[0], list | tuple) else change(at)


def _mirrored(link: Data) -> Data:
    """Its mirror image across the truck's centerline, bolts, bends and name too."""
    swap = {"left": "right", "right": "left"}
    image = {**link, "id": "-".join(swap.get(word, word) for word in link["id"].split("-"))}
    for end in ("axle", "frame"):
        image[end] = dict(link[end])
        _each(image[end], lambda p: [p[0], -p[1], p[2]])
        if image[end].get("bolt"):
            bx, by, bz = image[end]["bolt"]
            image[end]["bolt"] = [bx, -by, bz]
    if (link.get("tube") or {}).get("bends"):
        image["tube"] = {**link["tube"], "bends": [[x, -y, z] for x, y, z in link["tube"]["bends"]]}
    return image


def _unused(design: Design, name: str) -> str:
    parts = parts_of(design)
    taken = {body.id for body in parts.bodies} | {spot.part for spot in parts.spots}
    return next(one for n in range(1, len(taken) + 2) if (one := name if n == 1 else f"{name}-{n}") not in taken)


def without_link(design: Design, link: str) -> Design:
    """A link less.

    Raises:
        Refused: where no link has that name, or something stands on it.
    """
    data = design_data(design)
    _place(data, link)
    data["links"] = [one for one in data["links"] if one["id"] != link]
    forget(data, link)
    return design_from(data)


def with_kind(design: Design, link: str, kind: LinkKind) -> Design:
    """The link as another kind, at the same frame mount: an arm's bolts stand about where the link's axle mount was,
    and a link's mount is midway between the bolts.

    Raises:
        Refused: where no link has that name, or what stands on it can't stand on that kind.
    """
    data = design_data(design)
    one = data["links"][_place(data, link)]
    was = one["kind"]
    if "radius_arm" in (was, kind) and was != kind:
        at = one["axle"]["at"]
        if kind == "radius_arm":
            x, y, z = at
            one["axle"] = {"at": [[x + _BOLTS_MM, y, z], [x - _BOLTS_MM, y, z]]}
            if one.get("tube"):
                one["tube"] = {key: value for key, value in one["tube"].items() if key != "bends"}
        else:
            one["axle"] = {"at": [(a + b) / 2.0 for a, b in zip(*at, strict=True)]}
        keep = (data.get("locks") or {}).get(f"{link}.frame")
        forget(data, link)
        if keep:
            data["locks"] = {**(data.get("locks") or {}), f"{link}.frame": keep}
    one["kind"] = kind
    return design_from(data)


def _place(data: Data, link: str) -> int:
    for n, one in enumerate(data["links"]):
        if one["id"] == link:
            return n
    raise Refused([Fault("change.link", f"is {link}, and the design has no such link; choose one that it has")])


def forget(data: Data, name: str) -> None:
    """What the design says of a link or locator that it no longer has."""
    if data.get("locks"):
        data["locks"] = {key: value for key, value in data["locks"].items() if key.partition(".")[0] != name}
    if data.get("unpaired"):
        data["unpaired"] = [key for key in data["unpaired"] if key.partition(".")[0] != name]
