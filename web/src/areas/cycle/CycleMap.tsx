/** A figure over travel and twist together, as a map; and paths played through it. */

import { scaleLinear } from "d3-scale";
import { useMemo, useState } from "react";
import styled from "styled-components";

import { server } from "../../api/client";
import { f } from "../../floor/geometry";
import { QUANTITIES, type Quantity, show } from "../../figures/readings";
import { Play } from "../../panels/Play";
import { scrubbed, toPose, useScrub } from "../../state/scrub";
import { useAsked } from "../../solve/asking";
import { Choice, Trouble } from "../../ui/controls";
import { lengthFigure, plain, type Units, unitSign } from "../../units/tape";
import { levelsOf } from "./contours";
import type { Shown } from "./Cycle";
import { OnOwnFloor } from "./OnOwnFloor";
import { PATHS } from "./paths";
import { ticksOf } from "../../figures/plots";
import { LEAST_GAP } from "./plotting";

const Drawing = styled.svg`
  display: block;
  width: 100%;
  height: auto;
  background: var(--sheet);
  text {
    fill: var(--ink);
    font-size: 12px;
  }
  .held {
    fill: url(#held);
  }
  .quiet {
    fill: var(--quiet);
  }
  .number {
    stroke: var(--sheet);
    stroke-width: 4px;
    paint-order: stroke;
    font-weight: 500;
  }
`;

/** What can be looked at: the field, its name, its unit. */
const FIELDS: readonly (readonly [string, string, "mm" | "deg" | "percent"])[] = [
  ["yaw", "Turned in plan, to the left", "deg"],
  ["pinion_change", "Pinion, nose up", "deg"],
  ["caster_change", "Caster, more", "deg"],
  ["axle_x", "Axle forward", "mm"],
  ["axle_y", "Axle to the left", "mm"],
  ["joint_reserve", "Joint nearest its limit has left", "deg"],
  ["bind", "Give needed", "mm"],
  ["roll_center_height", "Roll center height", "mm"],
  ["anti_squat", "Anti-squat", "percent"],
  ["anti_dive", "Anti-dive", "percent"],
  ["case_joint", "Shaft’s joint at the case", "deg"],
  ["pinion_joint", "Shaft’s joint at the pinion", "deg"],
  ["shaft_slip", "Shaft’s slip drawn out", "mm"],
  ["bump_steer", "Knuckle turns left", "deg"],
  [LEAST_GAP, "Least gap has to spare", "mm"],
];

export function CycleMap(shown: Shown) {
  const { document, units } = shown;
  const [field, setField] = useState("yaw");
  const gaps = field === LEAST_GAP;
  const key = JSON.stringify([document, gaps]);
  const asked = useAsked(key, (signal) => server.map({ document, gaps }, signal), 200);
  const fields = asked.key === key ? (asked.data?.fields ?? {}) : {};
  const there = FIELDS.filter(([id]) => id === LEAST_GAP || gaps || id in fields);
  return (
    <OnOwnFloor
      {...shown}
      help="Press the map to go to a pose. A path is played through it and on the floor."
    >
      <div className="line">
        <Choice
          label="Figure"
          value={field}
          options={there.map(([id, name]) => [id, name] as const)}
          onChange={setField}
        />
        {PATHS.map(([words, along]) => (
          <Play key={words} {...{ words, along }} />
        ))}
      </div>
      {asked.state === "failed" ? (
        <Trouble role="alert">{asked.why}</Trouble>
      ) : asked.data && asked.key === key && field in asked.data.fields ? (
        <Lines {...{ field, units, document }} map={asked.data} />
      ) : (
        <p role="status">{gaps ? "Looking at the gaps…" : "Drawing the map…"}</p>
      )}
    </OnOwnFloor>
  );
}

type MapOut = NonNullable<Awaited<ReturnType<typeof server.map>>["data"]>;

const [WIDE, HIGH, LEFT, TOP, FOOT, RIGHT] = [590, 252, 52, 20, 24, 10];

type Scale = (v: number) => number;

/** Where a pose stands on the drawing, and which pose a place on it is. */
function scalesIn({ travel, articulation }: MapOut) {
  const across = scaleLinear([articulation[0]!, articulation.at(-1)!], [LEFT, WIDE - RIGHT]);
  const up = scaleLinear([travel[0]!, travel.at(-1)!], [HIGH - FOOT, TOP]);
  const between = (list: readonly number[]) => scaleLinear(list.map((_, n) => n), [...list]);
  const [column, row] = [between(articulation), between(travel)];
  return {
    x: (a: number) => across(a),
    y: (t: number) => up(t),
    column: (n: number) => across(column(n)),
    row: (n: number) => up(row(n)),
    pose: (px: number, py: number) => ({ articulation: across.invert(px), travel: up.invert(py) }),
  };
} // prettier-ignore

function Lines({
  field,
  units,
  map,
  document,
}: { field: string; units: Units; map: MapOut } & Pick<Shown, "document">) {
  const scrub = scrubbed(document, useScrub());
  const values = map.fields[field]!;
  const [, name, unit] = FIELDS.find(([id]) => id === field)!;
  const scales = useMemo(() => scalesIn(map), [map]);
  const shown = useMemo(() => shownIn(values, QUANTITIES[unit], units), [values, unit, units]);
  const levels = useMemo(() => levelsOf(shown.values, scales.column, scales.row), [shown, scales]);
  const { x, y } = scales;
  const pick = (event: React.MouseEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [px, py] = [event.clientX - box.left, event.clientY - box.top];
    toPose(scrubbed(document, scales.pose((px / box.width) * WIDE, (py / box.height) * HIGH)));
  };
  const [hereX, hereY] = [f(x(scrub.articulation)), f(y(scrub.travel))];
  return (
    <Drawing
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label={`${name} over travel and twist: ${shown.words}`}
      onClick={pick}
      style={{ cursor: "crosshair" }}
    >
      <Held {...{ map, scales }} />
      <rect x={LEFT} y={TOP} width={WIDE - LEFT - RIGHT} height={HIGH - TOP - FOOT} fill="none" stroke="var(--line)" />
      {levels.map(({ value, path }) => (
        <path key={value} d={path} fill="none" stroke="var(--ink)" strokeWidth={value === 0 ? 1.8 : 0.9} />
      ))}
      {levels.map(({ value, label }) => label && (
        <text key={value} className="number" x={f(label[0])} y={f(label[1] + 4)} textAnchor="middle">
          {shown.say(value)}
        </text>
      ))}
      <Axes {...{ map, units, x, y }} />
      <path d={`M${hereX} ${TOP}V${HIGH - FOOT}M${LEFT} ${hereY}H${WIDE - RIGHT}`} stroke="var(--accent)" fill="none" />
      <circle cx={hereX} cy={hereY} r={5} fill="var(--sheet)" stroke="var(--accent)" strokeWidth={2.5} />
      <text x={WIDE - RIGHT} y={13} textAnchor="end">
        {levels.length === 0 ? `The same everywhere: ${shown.words}` : shown.words}
        {map.allowed.flat().includes(false) && "; hatched: stops and straps hold it back"}
      </text>
    </Drawing>
  );
} // prettier-ignore

/** The field in the unit that the screen shows, so that its steps are even there; and how a level is said. */
function shownIn(values: MapOut["fields"][string], quantity: Quantity, units: Units) {
  const inch = quantity === "length" && units !== "mm" ? 25.4 : 1;
  const known = values.flat().filter((v): v is number => v !== null);
  const sign = quantity === "angle" ? "°" : quantity === "percent" ? " %" : "";
  return {
    values: values.map((row) => row.map((v) => (v === null ? null : v / inch))),
    say: (value: number) => `${plain(value, Number.isInteger(value) ? 0 : Number.isInteger(value * 10) ? 1 : 2)}${sign}`,
    words: known.length ? `from ${show(Math.min(...known), quantity, units)} to ${show(Math.max(...known), quantity, units)}` : "nothing is reached",
  };
} // prettier-ignore

/** Where stops and straps do not let the axle come: hatched, under the lines. */
function Held({ map, scales }: { map: MapOut; scales: ReturnType<typeof scalesIn> }) {
  const half = (n: number, last: number) => [Math.max(n - 0.5, 0), Math.min(n + 0.5, last)] as const;
  const cells = map.travel.flatMap((_, row) =>
    map.articulation.map((__, column) => {
      if (map.allowed[row]?.[column] !== false) return null;
      const [left, right] = half(column, map.articulation.length - 1).map(scales.column) as [number, number];
      const [low, high] = half(row, map.travel.length - 1).map(scales.row) as [number, number];
      return (
        <rect
          key={`${row} ${column}`}
          className="held"
          x={f(left)}
          y={f(high)}
          width={f(right - left + 0.3)}
          height={f(low - high + 0.3)}
        />
      );
    }),
  );
  return (
    <>
      <defs>
        <pattern id="held" width={7} height={7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V7" stroke="var(--hair)" strokeWidth={1.6} />
        </pattern>
      </defs>
      {cells}
    </>
  );
}

function Axes({ map, units, x, y }: { map: MapOut; units: Units; x: Scale; y: Scale }) {
  const [low, high] = [map.travel[0]!, map.travel.at(-1)!];
  const [right, left] = [map.articulation[0]!, map.articulation.at(-1)!];
  return (
    <>
      {ticksOf(low, high, (t) => lengthFigure(t, units), units === "mm" ? 1 : 25.4).map(([t, words]) => (
        <text key={t} x={LEFT - 6} y={f(y(t) + 4)} textAnchor="end">
          {words}
        </text>
      ))}
      <text className="quiet" x={2} y={13}>
        Travel, {unitSign(units)}
      </text>
      {ticksOf(right, left, (a) =>
        a === 0 ? "level" : `${plain(Math.abs(a), 0)}° ${a > 0 ? "left up" : "right up"}`,
      ).map(([a, words]) => (
        <text key={a} x={f(x(a))} y={HIGH - FOOT + 16} textAnchor="middle">
          {words}
        </text>
      ))}
    </>
  );
}
