/** Drawn over the picture: dimensions of the chosen mount, guides while one is dragged. */

import styled from "styled-components";

import type { Document, Point, Spot } from "../document/document";
import { length, type Units } from "../units/tape";
import { f, line, type Standing, type View, type Xy } from "./geometry";
import { guidesFor } from "./guides";
import { barOf, distance } from "./bars";

const Lines = styled.g`
  pointer-events: none;
  stroke: var(--accent);
  fill: none;
  stroke-width: 1;
  .arrow {
    fill: var(--accent);
    stroke: none;
  }
  .guide {
    stroke-dasharray: 2 3;
    stroke-width: 1.4;
  }
  && text {
    fill: var(--accent);
    stroke: var(--sheet);
    stroke-width: 4px;
    paint-order: stroke;
    font-size: 0.8125rem;
    font-weight: 600;
  }
`;

interface Placed {
  view: View;
  document: Document;
  units: Units;
  /** Chassis point to px. */
  to: (p: Point) => Xy;
  standing: Standing;
}

function arrow([x, y]: Xy, [fx, fy]: Xy): string {
  const long = Math.hypot(x - fx, y - fy) || 1;
  const [ux, uy] = [(x - fx) / long, (y - fy) / long];
  const at = (s: number, out: number): Xy => [x - ux * s - uy * out, y - uy * s + ux * out];
  return `${line([x, y], at(8, 2.4), at(8, -2.4))}Z`;
}

/** `a` at the mount: the figure stands nearer to the other end, clear of the link's own length. */
function Dimension({ a, b, text }: { a: Xy; b: Xy; text: string }) {
  const upright = Math.abs(a[0] - b[0]) < Math.abs(a[1] - b[1]);
  const long = Math.hypot(a[0] - b[0], a[1] - b[1]);
  const part = upright ? 0.8 : 0.5;
  const [x, y] = [a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part];
  return (
    <>
      <path d={line(a, b)} />
      {long > 20 && <path className="arrow" d={arrow(a, b) + arrow(b, a)} />}
      <text
        x={f(upright ? x + 6 : x)}
        y={f(upright ? y + 4 : y - 5)}
        textAnchor={upright ? "start" : "middle"}
      >
        {text}
      </text>
    </>
  );
}

/** As a shop measures: off the floor, ahead of the axle, out from the truck's centerline; and the link, center to center. */
export function Dimensions({ view, document, units, to, standing, mount }: Placed & { mount: Spot }) {
  const at = standing.place(mount.on, mount.at);
  const [x, y, z] = mount.at;
  const p = to(at);
  const said = (mm: number) => length(Math.abs(mm), units);
  const body = barOf(document, mount);
  const bar = body && { a: standing.end(body.a), b: standing.end(body.b) };
  const off = (q: Xy, dx: number, dy: number): Xy => [q[0] + dx, q[1] + dy];
  return (
    <Lines>
      {view === "side" && (
        <>
          <Dimension a={p} b={[p[0], to([0, 0, at[2] - z])[1]]} text={said(z)} />
          {Math.abs(x) > 1 && (
            <Dimension
              a={off(p, 0, -26)}
              b={[to(standing.place(mount.on, [0, y, z]))[0], p[1] - 26]}
              text={said(x)}
            />
          )}
        </>
      )}
      {view === "top" && (
        <>
          {Math.abs(y) > 1 && <Dimension a={p} b={[p[0], to([0, 0, 0])[1]]} text={said(y)} />}
          {bar && <BarLength a={to(bar.a)} b={to(bar.b)} text={said(distance(bar.a, bar.b))} />}
        </>
      )}
      {view === "rear" && Math.abs(y) > 1 && (
        <Dimension a={off(p, 0, -20)} b={[to([0, 0, 0])[0], p[1] - 20]} text={said(y)} />
      )}
    </Lines>
  );
}

function BarLength({ a, b, text }: { a: Xy; b: Xy; text: string }) {
  const turn = (Math.atan2(b[1] - a[1], b[0] - a[0]) * 180) / Math.PI;
  const upright = turn > 90 || turn < -90 ? turn + 180 : turn;
  return (
    <text
      transform={`translate(${f(a[0] * 0.6 + b[0] * 0.4)} ${f(a[1] * 0.6 + b[1] * 0.4)}) rotate(${f(upright)})`}
      y={-14}
      textAnchor="middle"
    >
      {text}
    </text>
  );
}

const SEEN: Record<View, readonly string[]> = {
  side: ["level", "plumb", "length"],
  top: ["plumb", "beside", "length"],
  rear: ["level", "beside"],
};

/** What the dragged mount lines up with. */
export function Guides({ view, document, to, standing, mount }: Placed & { mount: Spot }) {
  const guides = guidesFor(document, mount.key).filter((g) => SEEN[view].includes(g.kind));
  return (
    <Lines>
      {guides.map((guide) => {
        const [a, b] = [
          to(standing.place(mount.on, guide.from)),
          to(guide.kind === "length" ? guide.to : standing.place(mount.on, guide.to)),
        ];
        const beyond = (s: number): Xy => [a[0] + (b[0] - a[0]) * s, a[1] + (b[1] - a[1]) * s];
        return (
          <g key={guide.kind}>
            <path className="guide" d={line(beyond(-0.08), beyond(1.08))} />
            <text x={f(b[0] + 8)} y={f(b[1] - 10)}>
              {guide.words}
            </text>
          </g>
        );
      })}
    </Lines>
  );
}
