"""Pages written out: as SVG, and as PDF. The same pages give the same bytes."""

import io
from collections.abc import Sequence
from html import escape

from oak_lever.sheet.page import Mark, Ring, Words, Xy
from oak_lever.sheet.plain import plain

_FONT = "IBM Plex Sans Condensed, Arial Narrow, Helvetica, sans-serif"
_SPACE = "http://www.w3.org/2000/svg"
_POINTS_PER_MM = 72.0 / 25.4


def svg(pages: Sequence[Sequence[Mark]], size: Xy, title: str) -> str:
    """The pages, one below the other, as an SVG document at their true size."""
    wide, high = size[0], size[1] * len(pages)
    return "\n".join(
        [
            f'<svg xmlns="{_SPACE}" width="{wide:g}mm" height="{high:g}mm" viewBox="0 0 {wide:g} {high:g}"',
            f'  font-family="{_FONT}">',
            f"<title>{escape(plain(title), quote=False)}</title>",
            f'<rect width="{wide:g}" height="{high:g}" fill="white"/>',
            *(part for n, page in enumerate(pages) for part in _svg_page(page, n * size[1])),
            "</svg>\n",
        ]
    )


def _svg_page(page: Sequence[Mark], down: float) -> list[str]:
    return [f'<g transform="translate(0 {_n(down)})">', *(_svg_of(mark) for mark in page), "</g>"]


def _svg_of(mark: Mark) -> str:
    if isinstance(mark, Words):
        weight = ' font-weight="600"' if mark.bold else ""
        x, y = mark.at
        turn = f' transform="rotate(-90 {_n(x)} {_n(y)})"' if mark.upright else ""
        return (
            f'<text x="{_n(x)}" y="{_n(y)}" font-size="{_n(mark.size)}" text-anchor="{mark.anchor}"{weight}{turn}>'
            f"{escape(plain(mark.text), quote=False)}</text>"
        )
    fill = (
        "none"
        if mark.fill is None
        else f"rgb({round(255 * mark.fill)},{round(255 * mark.fill)},{round(255 * mark.fill)})"
    )
    dash = f' stroke-dasharray="{" ".join(_n(d) for d in mark.dash)}"' if mark.dash else ""
    style = f'fill="{fill}" stroke="black" stroke-width="{_n(mark.width)}" stroke-linejoin="round"{dash}'
    if isinstance(mark, Ring):
        return f'<circle cx="{_n(mark.center[0])}" cy="{_n(mark.center[1])}" r="{_n(mark.radius)}" {style}/>'
    points = " ".join(f"{_n(x)},{_n(y)}" for x, y in mark.points)
    return f'<{"polygon" if mark.closed else "polyline"} points="{points}" {style}/>'


def _n(value: float) -> str:
    return f"{round(value, 3) + 0.0:g}"


def pdf(pages: Sequence[Sequence[Mark]], size: Xy, title: str) -> bytes:
    """The pages as a PDF at their true size, in the fonts every reader has."""
    from reportlab.pdfgen.canvas import Canvas

    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(size[0] * _POINTS_PER_MM, size[1] * _POINTS_PER_MM), invariant=1)
    canvas.setTitle(plain(title))
    for page in pages:
        canvas.scale(_POINTS_PER_MM, _POINTS_PER_MM)
        canvas.setLineJoin(1)
        for mark in page:
            _on_canvas(canvas, mark, size[1])
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _on_canvas(canvas, mark: Mark, high: float) -> None:  # type: ignore[no-untyped-def]
    if isinstance(mark, Words):
        canvas.setFillGray(0)
        canvas.setFont("Helvetica-Bold" if mark.bold else "Helvetica", mark.size * 0.92)
        draw = {"start": canvas.drawString, "middle": canvas.drawCentredString, "end": canvas.drawRightString}[
            mark.anchor
        ]
        x, y = mark.at[0], high - mark.at[1]
        canvas.saveState()
        canvas.translate(x, y)
        canvas.rotate(90 if mark.upright else 0)
        draw(0, 0, plain(mark.text))
        canvas.restoreState()
        return
    canvas.setLineWidth(mark.width)
    canvas.setDash(list(mark.dash))
    filled = mark.fill is not None
    if filled:
        canvas.setFillGray(mark.fill)
    if isinstance(mark, Ring):
        canvas.circle(mark.center[0], high - mark.center[1], mark.radius, stroke=1, fill=int(filled))
        return
    path = canvas.beginPath()
    (x, y), *rest = mark.points
    path.moveTo(x, high - y)
    for x, y in rest:
        path.lineTo(x, high - y)
    if mark.closed:
        path.close()
    canvas.drawPath(path, stroke=1, fill=int(filled))
