/** The whole cycle on one page: every figure over travel and over twist, grouped by question; to save and to print. */

import { useRef } from "react";
import styled from "styled-components";

import { type Schemas, server } from "../../api/client";
import { ticksOf, type Values } from "../../figures/plots";
import { f } from "../../floor/geometry";
import { LEAST, show } from "../../figures/readings";
import { useBehind } from "../../state/behind";
import { useDesign } from "../../state/design";
import { toPose } from "../../state/scrub";
import type { Solved } from "../../state/solver";
import { useAsked } from "../../solve/asking";
import { Button } from "../../ui/controls";
import { lengthFigure, plain, type Units, unitSign } from "../../units/tape";
import type { Shown } from "./Cycle";
import { saved } from "./exporting";
import { LEAST_GAP, linesOf, type Panel } from "./plotting";

const Sheet = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  background: var(--sheet);
  text {
    font-family: inherit;
    fill: var(--ink);
  }
`;

type Asked = Schemas["Asked"];
type Curve = Schemas["Curve"];

const [WIDE, LEFT, GAP_X, TALL, HEAD, TITLE, FOOT] = [1160, 196, 28, 62, 24, 78, 90];
/** On a tablet the sheet is narrower, so that its words stay as large. */
const NARROW_PX = 1000;
const sizesFor = (screen: number) => {
  const wide = screen < NARROW_PX ? 660 : WIDE;
  const left = screen < NARROW_PX ? 172 : LEFT;
  return { wide, left, half: (wide - left - 2.5 * GAP_X) / 2 };
};
type Sizes = ReturnType<typeof sizesFor>;

export function Curves({ document, units, solved }: Shown) {
  const sheet = useRef<SVGSVGElement>(null);
  const gaps = useAsked(
    JSON.stringify(["gaps", document]),
    (signal) => server.map({ document, gaps: true }, signal),
    900,
  );
  const name = useDesign((s) => `${s.document?.name ?? ""}, revision ${s.stored?.number ?? ""}`);
  if (!solved) return <p role="status">Working it out…</p>;
  const { curves: questions } = solved.answer;
  return (
    <>
      <div className="line">
        <Button onPress={() => saved(sheet.current, "svg", document.name)}>Save as SVG</Button>
        <Button onPress={() => saved(sheet.current, "png", document.name)}>Save as PNG</Button>
        <Button onPress={() => window.print()}>Print the page</Button>
        <span className="quiet">
          Press a curve to go to that pose. Every row as CSV stands under Drawing.
        </span>
      </div>
      <OneSheet {...{ questions, solved, units, sheet, name }} gaps={gaps.data} />
    </>
  );
}

type Gaps = Awaited<ReturnType<typeof server.map>>["data"] | null;

interface Given {
  questions: Asked[];
  solved: Solved;
  units: Units;
  gaps: Gaps;
  name: string;
  sheet: React.RefObject<SVGSVGElement | null>;
}

/** Where each question's head and rows stand on the sheet, and how high it is. */
function laidOut(questions: Asked[]) {
  const placed: { asks: string; y: number; rows: { plot: Curve; y: number }[] }[] = [];
  for (const { asks, curves } of questions) {
    const last = placed.at(-1);
    const y = last ? last.y + HEAD + last.rows.length * TALL : TITLE;
    placed.push({ asks, y, rows: curves.map((plot, n) => ({ plot, y: y + HEAD + n * TALL })) });
  }
  const last = placed.at(-1);
  return { placed, high: last ? last.y + HEAD + last.rows.length * TALL : TITLE };
}

function OneSheet({ questions, solved, units, gaps, name, sheet }: Given) {
  const size = sizesFor(window.innerWidth);
  const { wide, left, half } = size;
  const { placed, high } = laidOut(questions);
  const { bump, droop, articulation } = solved.document.travel;
  return (
    <Sheet
      ref={sheet}
      className="whole-cycle"
      viewBox={`0 0 ${wide} ${high + FOOT}`}
      role="group"
      aria-label="Whole cycle"
    >
      <text x={8} y={20} fontSize={16} fontWeight={600}>
        {name}
      </text>
      <text x={8} y={37} fontSize={12}>
        {new Date().toISOString().slice(0, 10)}; {units === "mm" ? "lengths in mm" : "lengths in inches"},
        angles in degrees
      </text>
      <Head
        x={left}
        half={half}
        words={`over the travel, droop to bump, ${unitSign(units)}`}
        ticks={ticksOf(-droop, bump, (v) => lengthFigure(v, units), units === "mm" ? 1 : 25.4)}
        ends={[-droop, bump]}
      />
      <Head
        x={left + half + GAP_X}
        half={half}
        words="over the twist at ride, right wheel up to left, degrees"
        ticks={ticksOf(-articulation, articulation, (v) => plain(v, 0))}
        ends={[-articulation, articulation]}
      />
      {placed.map(({ asks, y, rows }) => (
        <g key={asks}>
          <text x={8} y={y + 17} fontSize={15} fontWeight={600}>
            {asks}
          </text>
          {rows.map((row) => (
            <Row key={row.plot.column} {...row} {...{ solved, units, gaps, size }} />
          ))}
        </g>
      ))}
      <Foot y={high} />
    </Sheet>
  );
}

const FOOTNOTES = [
  "Shaded: the band that is wanted, or what the part itself allows. Dot: where it is worst, red where that is to be mended.",
  "Dashed: the design behind. Upright line: the pose that is shown.",
  "An estimate from the figures entered, not an approval.",
  "Have the design and the welds checked by a qualified engineer or inspector.",
];

const Foot = ({ y }: { y: number }) =>
  FOOTNOTES.map((words, n) => (
    <text key={words} x={8} y={y + 22 + 17 * n} fontSize={12}>
      {words}
    </text>
  ));

function Head(props: {
  x: number;
  half: number;
  words: string;
  ticks: [number, string][];
  ends: [number, number];
}) {
  const { x, half, words, ticks, ends } = props;
  const [from, to] = ends;
  return (
    <g>
      <text x={x} y={TITLE - 20} fontSize={12} fill="var(--quiet)">
        {words}
      </text>
      {ticks.map(([at, said]) => (
        <text
          key={at}
          x={x + ((at - from) / (to - from || 1)) * half}
          y={TITLE - 4}
          fontSize={11}
          textAnchor="middle"
          fill="var(--quiet)"
        >
          {said}
        </text>
      ))}
    </g>
  );
}

interface OneRow {
  plot: Curve;
  solved: Solved;
  units: Units;
  gaps: Gaps;
  size: Sizes;
  y: number;
}

/** The two sweeps of a column; the gap's from its coarser map. */
function panelsOf({ plot, solved, gaps }: OneRow): [Panel, Panel] {
  if (plot.column === LEAST_GAP) {
    const field = gaps?.fields[LEAST_GAP] ?? [];
    const [ride] = [gaps ? nearestRide(gaps.travel) : 0];
    const middle = gaps ? (gaps.articulation.length - 1) / 2 : 0;
    return [
      { along: gaps?.travel ?? [], values: field.map((row) => row[middle] ?? null) },
      { along: gaps?.articulation ?? [], values: field[ride] ?? [] },
    ];
  }
  const { heave, articulation } = solved.answer;
  return [
    { along: heave.columns["travel"]!, values: heave.columns[plot.column] ?? [] },
    { along: articulation.columns["articulation"]!, values: articulation.columns[plot.column] ?? [] },
  ];
}

const nearestRide = (travel: number[]): number =>
  travel.reduce((best, at, n) => (Math.abs(at) < Math.abs(travel[best]!) ? n : best), 0);

function bandOf({ plot, solved }: OneRow): readonly [number | null, number | null] | null {
  if (plot.low !== null || plot.high !== null) return [plot.low ?? null, plot.high ?? null];
  const finding = plot.judged !== null && solved.answer.findings.find((one) => one.figure === plot.judged);
  return finding ? [finding.low, finding.high] : null;
}

const known = (values: Values): number[] => values.filter((v): v is number => v !== null);

function Row(props: OneRow) {
  const { plot, solved, units, size, y } = props;
  const behind = useBehind((s) => s.behind?.answer ?? null);
  const panels = panelsOf(props);
  const all = known([...panels[0].values, ...panels[1].values]);
  if (all.length === 0)
    return (
      <text x={16} y={y + 34} fontSize={13} fill="var(--quiet)">
        {plot.name}: {plot.column === LEAST_GAP ? "looking at the gaps…" : "none here"}
      </text>
    );
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const wrong = isWrong(props);
  const say = (value: number) => show(value, plot.quantity, units);
  const ghosts = [behind?.heave.columns[plot.column], behind?.articulation.columns[plot.column]];
  const heres = [solved.travel, solved.articulation];
  const own = panels.map(({ values }) => {
    const there = known(values);
    return there.length ? `${say(Math.min(...there))} to ${say(Math.max(...there))}` : "none here";
  });
  return (
    <g role="img" aria-label={`${plot.name}: over the travel ${own[0]!}, over the twist ${own[1]!}`}>
      <text x={16} y={y + 31} fontSize={14}>
        {plot.name}
      </text>
      {panels.map((panel, n) => (
        <OnePanel
          key={n}
          panel={panel}
          ghost={ghosts[n] ?? null}
          band={bandOf(props)}
          range={[low, high]}
          own={own[n]!}
          ends={n === 0 ? say : null}
          wrong={wrong}
          least={LEAST[plot.quantity]}
          here={heres[n]!}
          half={size.half}
          x={size.left + n * (size.half + GAP_X)}
          y={y}
          onPick={(at) => toPose(n === 0 ? { travel: at, articulation: 0 } : { travel: 0, articulation: at })}
        />
      ))}
    </g>
  );
}

/** Whether what is judged of this curve is to be stopped for or fixed. */
const isWrong = ({ plot, solved }: OneRow): boolean => {
  const finding = plot.judged !== null && solved.answer.findings.find((one) => one.figure === plot.judged);
  return finding !== undefined && finding !== false && ["stop", "fix"].includes(finding.severity);
};

interface OfPanel {
  panel: Panel;
  ghost: Values | null;
  band: readonly [number | null, number | null] | null;
  range: [number, number];
  /** What its own values range over, in words. */
  own: string;
  /** How the axis says its ends; null where the panel beside it has said so. */
  ends: ((value: number) => string) | null;
  wrong: boolean;
  least: number;
  here: number;
  half: number;
  x: number;
  y: number;
  onPick: (at: number) => void;
}

function OnePanel(given: OfPanel) {
  const { panel, ghost, band, range, own, ends, wrong, least, here, half, x, y, onPick } = given;
  const high = TALL - 8;
  const drawn = linesOf(panel, ghost, { range, least, wide: half, high, band });
  if (!drawn) return null;
  const [first, last] = [panel.along[0] ?? 0, panel.along.at(-1) ?? 0];
  const pick = (event: React.MouseEvent<SVGRectElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    onPick(first + ((event.clientX - box.left) / box.width) * (last - first));
  };
  const plainLine = { fill: "none", pointerEvents: "none" } as const;
  return (
    <g transform={`translate(${x} ${y + 2})`}>
      {drawn.band && (
        <rect
          y={drawn.band[0]}
          width={half}
          height={Math.max(0, drawn.band[1] - drawn.band[0])}
          fill="var(--steel)"
        />
      )}
      <rect
        width={half}
        height={high}
        fill="transparent"
        stroke="var(--hair)"
        onClick={pick}
        cursor="pointer"
      />
      <path d={`M${drawn.x(0)} 0V${high}`} stroke="var(--line)" strokeWidth={0.7} {...plainLine} />
      {drawn.zero !== null && (
        <path
          d={`M0 ${f(drawn.zero)}H${half}`}
          stroke="var(--line)"
          strokeWidth={0.7}
          strokeDasharray="2 3"
          {...plainLine}
        />
      )}
      {ends && <Ends {...{ drawn, high }} say={ends} />}
      {drawn.ghost !== null && (
        <path d={drawn.ghost} stroke="var(--far)" strokeWidth={1.4} strokeDasharray="5 3" {...plainLine} />
      )}
      <path d={drawn.line} stroke="var(--ink)" strokeWidth={1.8} {...plainLine} />
      <path d={`M${drawn.x(here)} 0V${high}`} stroke="var(--accent)" strokeWidth={1.2} {...plainLine} />
      <Said {...{ drawn, half, own, wrong, high }} endsHigh={endsHigh(panel, range)} />
    </g>
  );
}

/** Whether the last quarter of the curve is, in the mean, in the upper half of the range. */
function endsHigh({ values }: Panel, [low, high]: [number, number]): boolean {
  const last = known(values.slice(-Math.ceil(values.length / 4)));
  return last.reduce((sum, v) => sum + v, 0) > (last.length * (low + high)) / 2;
}

/** Where it is worst, and what its values range over. */
function Said(props: {
  drawn: NonNullable<ReturnType<typeof linesOf>>;
  half: number;
  high: number;
  own: string;
  wrong: boolean;
  /** Whether the curve is in the upper half where the words stand: then they stand below it. */
  endsHigh: boolean;
}) {
  const { drawn, half, high, own, wrong, endsHigh } = props;
  return (
    <>
      {drawn.worst && (
        <circle
          cx={drawn.worst[0]}
          cy={drawn.worst[1]}
          r={wrong ? 4 : 3}
          fill={wrong ? "var(--stop)" : "var(--ink)"}
          stroke="var(--sheet)"
        />
      )}
      <text
        x={half - 4}
        y={endsHigh ? high - 5 : 11}
        fontSize={11}
        textAnchor="end"
        fill="var(--quiet)"
        stroke="var(--sheet)"
        strokeWidth={3}
        paintOrder="stroke"
      >
        {own}
      </text>
    </>
  );
}

/** The axis: what stands at its two ends, and nothing where that is on it. */
function Ends(props: {
  drawn: NonNullable<ReturnType<typeof linesOf>>;
  high: number;
  say: (v: number) => string;
}) {
  const { drawn, high, say } = props;
  const [bottom, top] = drawn.ends;
  const zero = drawn.zero;
  const free = zero !== null && zero > 18 && zero < high - 14;
  const marks: [number, string][] = [[9, say(top)], [high - 1, say(bottom)], ...(free ? [[zero + 4, "0"] as [number, string]] : [])]; // prettier-ignore
  return marks.map(([at, words]) => (
    <text key={at} x={-5} y={at} fontSize={10.5} textAnchor="end" fill="var(--quiet)">
      {words}
    </text>
  ));
}
