/** What ends the travel, as a ladder of heights to be read off: straight up and down; in words for the twist. */

import styled from "styled-components";

import { bodiesOf, type Document, pairOf, words } from "../../document/document";
import { f } from "../../floor/geometry";
import { partWords } from "../../panels/Gaps";
import { toPose } from "../../state/scrub";
import type { Solved } from "../../state/solver";
import { Trouble } from "../../ui/controls";
import { length, lengthFigure, plain, type Units, unitSign } from "../../units/tape";
import { type Rung, type Rungs, useCorners } from "./asked";

interface Of {
  document: Document;
  units: Units;
  solved: Solved | null;
}

const EVENTS: Record<Rung["what"], string> = {
  touches: "touches",
  solid: "solid",
  tight: "tight",
  end: "at its end",
  shut: "fully pressed",
  open: "fully drawn out",
  coils: "coils touch",
  loose: "falls loose",
  joint: "joint at its limit",
  links: "a link runs out",
  slip_out: "pulled apart",
  slip_in: "pressed solid",
  case_joint: "joint at the case at its limit",
  pinion_joint: "joint at the pinion at its limit",
  meets: "meet",
};

/** What may end the travel, what only begins to, and what must not end it. */
export const natureOf = (what: Rung["what"]): "holds" | "begins" | "hard" =>
  what === "solid" || what === "end" ? "holds" : what === "touches" || what === "tight" ? "begins" : "hard";

const NATURES = { holds: "holds it", begins: "begins to", hard: "must not end it" };

export function Ends({ document, units }: Of) {
  const { key, asked } = useCorners(document, units);
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  if (!asked.data) return <p role="status">Climbing it…</p>;
  const [bump, droop, ...twists] = asked.data.ladder;
  if (!bump || !droop) return <p>Nothing holds the axle, so nothing can be said of its travel.</p>;
  return (
    <section aria-label="What ends the travel" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      <Ladder {...{ document, units, bump, droop }} />
      <p className="quiet">
        Full dot: holds it, as it should. Ring: begins to. Square: must not end it. Shaded: the travel asked
        for.
      </p>
      <ul style={{ margin: 0, paddingLeft: 18 }}>
        {[bump, droop, ...twists].map((way) => (
          <li key={way.way}>{wayWords(document, way, units)}</li>
        ))}
      </ul>
    </section>
  );
}

const amount = (at: number, unit: Rungs["unit"], units: Units) =>
  unit === "deg" ? `${plain(at, 1)}°` : length(at, units);

const WAYS: Record<Rungs["way"], string> = {
  bump: "Bump",
  droop: "Droop",
  "left wheel up": "Left wheel up",
  "right wheel up": "Right wheel up",
};

/** What a rung says: a pair once. */
export function rungWords(document: Document, rung: Rung, both: boolean): string {
  if (rung.what === "links") return EVENTS.links;
  if (rung.what === "meets")
    return `${partWords(document, rung.part)} and ${partWords(document, rung.other).toLowerCase()} meet`;
  if (rung.part === "shaft") return `Shaft ${EVENTS[rung.what]}`;
  const [body] = rung.part.split(".");
  const known = bodiesOf(document).find((one) => one.id === body)?.words ?? rung.part;
  const side = both ? known.replace(/\b(left|right)\b ?/, "").trim() : known;
  return `${words(side)} ${EVENTS[rung.what]}`;
}

interface Line {
  at: number;
  rung: Rung;
  words: string;
}

const SAME_MM = 0.5;

/** Rungs in turn, what happens to both of a pair at once said once. */
export function linesOf(document: Document, { rungs }: Rungs): Line[] {
  const isAlike = (one: string, other: string) => one === other || pairOf(document, one) === other;
  const done = new Set<Rung>();
  return rungs.flatMap((rung) => {
    if (done.has(rung)) return [];
    const twin = rungs.find(
      (other) =>
        other !== rung &&
        other.what === rung.what &&
        other.part !== rung.part &&
        isAlike(other.part, rung.part) &&
        isAlike(other.other, rung.other) &&
        Math.abs(other.at - rung.at) < SAME_MM,
    );
    if (twin) done.add(twin);
    return [{ at: rung.at, rung, words: rungWords(document, rung, twin !== undefined) }];
  });
}

/** What holds a way, and how far behind it the next ones are. */
function wayWords(document: Document, way: Rungs, units: Units): string {
  const name = WAYS[way.way];
  const lines = linesOf(document, way).filter(({ rung }) => natureOf(rung.what) !== "begins");
  const [first, ...rest] = lines;
  const asked = amount(way.asked, way.unit, units);
  if (!first)
    return `${name}: nothing ends it up to ${amount(way.looked, way.unit, units)}; ${asked} is asked for.`;
  const verdict =
    natureOf(first.rung.what) === "holds" ? "as it should be" : "and that must not be what ends it";
  const next = rest
    .slice(0, 2)
    .map((line) => `${line.words.toLowerCase()} ${amount(line.at - first.at, way.unit, units)} behind it`)
    .join(", ");
  return `${name}: ${first.words.toLowerCase()} comes first, at ${amount(first.at, way.unit, units)} of ${asked} asked for, ${verdict}${next ? `; ${next}` : ""}.`;
}

const Drawing = styled.svg`
  display: block;
  width: 100%;
  max-width: 22rem;
  height: auto;
  text {
    fill: var(--ink);
    font-size: 12px;
  }
  .rail {
    stroke: var(--ink);
    stroke-width: 1.5;
  }
  .asked {
    fill: var(--accent-soft);
  }
  .tick {
    stroke: var(--hair);
  }
  .lead {
    stroke: var(--line);
    fill: none;
  }
  .scale {
    fill: var(--quiet);
    text-anchor: end;
  }
  .hard {
    fill: var(--stop);
  }
  .holds {
    fill: var(--ink);
  }
  .begins {
    fill: var(--sheet);
    stroke: var(--ink);
    stroke-width: 1.6;
  }
  .here {
    stroke: var(--accent);
    stroke-width: 2;
  }
  text.hard {
    font-weight: 600;
  }
  g[role="button"] {
    cursor: pointer;
  }
`;

const [WIDE, HIGH, RAIL, TOP, ROW] = [330, 520, 62, 14, 17];

/** Heights over the axle's at ride, bump above. */
function Ladder(props: { document: Document; units: Units; bump: Rungs; droop: Rungs }) {
  const { document, units, bump, droop } = props;
  const [high, low] = [bump.looked, -droop.looked];
  const y = (travel: number) => TOP + ((high - travel) / (high - low)) * (HIGH - 2 * TOP);
  const lines = [
    ...linesOf(document, bump),
    ...linesOf(document, droop).map((line) => ({ ...line, at: -line.at })),
  ].sort((a, b) => b.at - a.at);
  const labels = spread(lines.map(({ at }) => y(at)));
  const step = units === "mm" ? 50 : 50.8;
  const ticks = Array.from({ length: Math.floor((high - low) / step) + 1 }, (_, n) => (Math.ceil(low / step) + n) * step); // prettier-ignore
  return (
    <Drawing viewBox={`0 0 ${WIDE} ${HIGH}`} role="group" aria-label="Ladder of what ends the travel">
      <rect
        className="asked"
        x={RAIL - 11}
        y={f(y(bump.asked))}
        width={22}
        height={f(y(-droop.asked) - y(bump.asked))}
      />
      {ticks
        .filter((at) => at <= high && at >= low)
        .map((at) => (
          <g key={at}>
            <path className="tick" d={`M${RAIL - 12} ${f(y(at))}H${RAIL + 6}`} />
            <text className="scale" x={RAIL - 15} y={f(y(at) + 4)}>
              {lengthFigure(at, units)}
            </text>
          </g>
        ))}
      <text x={4} y={10} className="quiet">
        {unitSign(units)}
      </text>
      <path className="rail" d={`M${RAIL} ${TOP}V${HIGH - TOP}`} />
      {lines.map((line, n) => (
        <Mark key={`${line.words} ${line.at}`} line={line} y={y(line.at)} label={labels[n]!} units={units} />
      ))}
    </Drawing>
  );
}

function Mark({ line, y, label, units }: { line: Line; y: number; label: number; units: Units }) {
  const nature = natureOf(line.rung.what);
  const go = () => toPose({ travel: line.at, articulation: 0 });
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`${lengthFigure(line.at, units)} ${line.words}: ${NATURES[nature]}`}
      onClick={go}
      onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && go()}
    >
      <path className="lead" d={`M${RAIL + 6} ${f(y)}L${RAIL + 26} ${f(label)}H${RAIL + 30}`} />
      {nature === "hard" ? (
        <rect className="hard" x={RAIL - 5} y={f(y - 5)} width={10} height={10} />
      ) : (
        <circle className={nature} cx={RAIL} cy={f(y)} r={5} />
      )}
      <text className={nature === "hard" ? "hard" : ""} x={RAIL + 34} y={f(label + 4)}>
        {lengthFigure(line.at, units)} {line.words}
      </text>
    </g>
  );
}

/** Labels from the top down, none nearer to the one above than a row. */
export function spread(wanted: number[]): number[] {
  const placed: number[] = [];
  for (const y of wanted) placed.push(Math.max(y, (placed.at(-1) ?? -Infinity) + ROW));
  const over = Math.max(0, (placed.at(-1) ?? 0) - (HIGH - TOP));
  for (let n = placed.length - 1, most = HIGH - TOP; over > 0 && n >= 0; n -= 1, most -= ROW)
    placed[n] = Math.min(placed[n]!, most);
  return placed;
}
