/** One figure over the travel, of all designs that stand side by side, each with its own stroke and number. */

import { scaleLinear } from "d3-scale";
import styled from "styled-components";

import { type Answer, type CycleAnswer, server } from "../../api/client";
import type { Document } from "../../document/document";
import { pathOf, ticksOf, type Values } from "../../figures/plots";
import { LEAST, type Quantity, show } from "../../figures/readings";
import { f } from "../../floor/geometry";
import { useAsked } from "../../solve/asking";
import { Button, Trouble } from "../../ui/controls";
import { length, type Units } from "../../units/tape";

const STROKES = ["", "9 3", "2 3", "10 3 2 3", "5 2 1 2", "14 4 3 4"];
const [WIDE, TALL, LEFT, RIGHT, FOOT] = [300, 150, 50, 16, 18];
const LINE_MM = 25.4;

const Plot = styled.figure`
  margin: 0 0 0.5rem;
  svg {
    display: block;
    width: 100%;
    height: auto;
    background: var(--sheet);
    border: 1px solid var(--hair);
  }
  text {
    font-size: 10.5px;
    fill: var(--ink);
  }
  text.axis {
    fill: var(--quiet);
  }
  path {
    fill: none;
    stroke: var(--ink);
    stroke-width: 1.6;
  }
  path.grid {
    stroke: var(--hair);
    stroke-width: 1;
  }
  rect {
    fill: var(--steel);
  }
  figcaption {
    display: flex;
    justify-content: space-between;
    gap: 0.5rem;
    align-items: center;
    font-weight: 600;
  }
`;

interface Given {
  title: string;
  column: string;
  quantity: Quantity;
  band: readonly [number | null, number | null];
  designs: readonly Document[];
  names: readonly string[];
  units: Units;
  onClose: () => void;
}

interface Line {
  along: Values;
  values: Values;
}

/** All of them, or the first refusal. */
async function cycles(designs: readonly Document[]): Promise<Answer<CycleAnswer[]>> {
  const found: CycleAnswer[] = [];
  for (const document of designs) {
    const { data, error, status } = await server.cycle({ document, travel: 0, articulation: 0 });
    if (!data) return { error, status };
    found.push(data);
  }
  return { data: found, status: 200 };
}

export function Overlaid({ title, column, quantity, band, designs, names, units, onClose }: Given) {
  const key = JSON.stringify(designs);
  const asked = useAsked<CycleAnswer[]>(key, () => cycles(designs), 300);
  const lines = asked.key === key && asked.data ? asked.data.map((one) => lineOf(one, column)) : null;
  return (
    <Plot aria-label={`${title} over the travel`} aria-busy={lines === null && asked.state !== "failed"}>
      <figcaption>
        {title} over the travel
        <Button onPress={onClose} aria-label={`Close the curves of ${title.toLowerCase()}`}>
          Close
        </Button>
      </figcaption>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {lines && <Drawn {...{ lines, quantity, band, names, units, title }} />}
    </Plot>
  );
}

const lineOf = ({ heave }: CycleAnswer, column: string): Line => ({
  along: heave.columns["travel"] ?? [],
  values: heave.columns[column] ?? [],
});

const known = (values: Values): number[] => values.filter((v): v is number => v !== null);

/** What the plot reaches over: all curves, a band's ends where they are near, and at least so much. */
function heightOf(lines: readonly Line[], band: Given["band"], least: number): [number, number] {
  const all = lines.flatMap(({ values }) => known(values));
  const [bottom, top] = all.length ? [Math.min(...all), Math.max(...all)] : [0, 1];
  const tall = Math.max(top - bottom, least);
  const near = band.filter((v): v is number => v !== null && v > bottom - tall && v < top + tall);
  const [low, high] = [Math.min(bottom, ...near), Math.max(top, ...near)];
  const slack = Math.max(0, least - (high - low)) / 2;
  return [low - slack, high + slack];
}

function Drawn(props: Omit<Given, "column" | "designs" | "onClose"> & { lines: Line[] }) {
  const { lines, quantity, band, names, units, title } = props;
  const along = lines.flatMap((one) => known(one.along));
  const [from, to] = [Math.min(...along), Math.max(...along)];
  const [low, high] = heightOf(lines, band, LEAST[quantity]);
  const x = scaleLinear([from, to], [LEFT, WIDE - RIGHT]);
  const y = scaleLinear([low, high], [TALL - FOOT - 6, 6]);
  const unit = (of: Quantity) => (of === "length" && units !== "mm" ? LINE_MM : 1);
  const up = ticksOf(low, high, (v) => show(v, quantity, units), unit(quantity));
  const [bottom, top] = [band[0] ?? low, band[1] ?? high].map((v) => y(Math.min(Math.max(v, low), high)));
  const wanted = band[0] !== null || band[1] !== null;
  return (
    <>
      <svg viewBox={`0 0 ${WIDE} ${TALL}`} role="img" aria-label={saidOf(props)}>
        {wanted && <rect x={LEFT} width={WIDE - LEFT - RIGHT} y={f(top!)} height={f(Math.max(0, bottom! - top!))} />}
        {up.map(([at, words]) => (
          <g key={words}>
            <path className="grid" d={`M${LEFT} ${f(y(at))}H${WIDE - RIGHT}`} />
            <text className="axis" x={LEFT - 4} y={f(y(at) + 3.5)} textAnchor="end">
              {words}
            </text>
          </g>
        ))}
        {[from, 0, to].map((at) => (
          <text key={at} className="axis" x={f(x(at))} y={TALL - 5} textAnchor={at === to ? "end" : at === from ? "start" : "middle"}>
            {at === 0 ? "ride" : `${at < 0 ? "droop" : "bump"} ${length(Math.abs(at), units)}`}
          </text>
        ))}
        <path className="grid" d={`M${f(x(0))} 6V${TALL - FOOT}`} />
        {lines.map((one, n) => (
          <path key={n} data-curve={n + 1} strokeDasharray={STROKES[n]} d={pathOf(one.along, one.values, x, y)} />
        ))}
        {numbered(lines, x, y).map(({ n, at }) => (
          <text key={n} x={WIDE - RIGHT + 4} y={f(at + 3.5)}>
            {n + 1}
          </text>
        ))}
      </svg>
      <ol style={{ margin: 0, paddingLeft: "1.25rem", fontSize: "0.875rem" }} aria-label={`Curves of ${title.toLowerCase()}`}>
        {names.map((name, n) => (
          <li key={n}>
            <svg width={40} height={8} aria-hidden="true" style={{ display: "inline", width: "2.5rem", border: 0, background: "none" }}>
              <path d="M0 4H40" strokeDasharray={STROKES[n]} />
            </svg>{" "}
            {name}
            {known(lines[n]!.values).length === 0 && ": none"}
          </li>
        ))}
      </ol>
    </>
  );
} // prettier-ignore

const APART = 10;

/** Where the curves' numbers stand at their right ends, none on another. */
function numbered(lines: readonly Line[], x: (v: number) => number, y: (v: number) => number) {
  const ends = lines.flatMap(({ along, values }, n) => {
    const last = values.findLastIndex((v, k) => v !== null && along[k] != null);
    return last < 0 || x(along[last]!) < LEFT ? [] : [{ n, at: y(values[last]!) }];
  });
  ends.sort((one, other) => one.at - other.at);
  for (const [k, end] of ends.entries()) if (k > 0) end.at = Math.max(end.at, ends[k - 1]!.at + APART);
  return ends;
}

/** The curves in words: what each ranges over. */
const saidOf = ({
  lines,
  names,
  quantity,
  units,
}: Pick<Given, "names" | "quantity" | "units"> & { lines: Line[] }) =>
  lines
    .map(({ values }, n) => {
      const there = known(values);
      const range = there.length
        ? `${show(Math.min(...there), quantity, units)} to ${show(Math.max(...there), quantity, units)}`
        : "none";
      return `${names[n]!}: ${range}`;
    })
    .join("; ");
