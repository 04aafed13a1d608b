/** A figure over travel and twist together, as a map; and paths played through it. */

import { useState } from "react";
import styled from "styled-components";

import { server } from "../../api/client";
import { f } from "../../floor/geometry";
import { QUANTITIES, show } from "../../figures/readings";
import { Play } from "../../panels/Play";
import { scrubbed, toPose, useScrub } from "../../state/scrub";
import { useAsked } from "../../solve/asking";
import { Choice, Trouble } from "../../ui/controls";
import { lengthFigure, plain, type Units, unitSign } from "../../units/tape";
import type { Shown } from "./Cycle";
import { PATHS } from "./paths";
import { LEAST_GAP } from "./plotting";

const Drawing = styled.svg`
  display: block;
  width: 100%;
  max-width: 62rem;
  height: auto;
  background: var(--sheet);
  text {
    fill: var(--ink);
    font-size: 12px;
  }
  .cell {
    fill: var(--accent);
  }
  .held {
    fill: url(#held);
  }
  .quiet {
    fill: var(--quiet);
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

export function CycleMap({ document, units }: Shown) {
  const [field, setField] = useState("yaw");
  const gaps = field === LEAST_GAP;
  const key = JSON.stringify([document, gaps]);
  const asked = useAsked(key, (signal) => server.map({ document, gaps }, signal), 200);
  const fields = asked.key === key ? (asked.data?.fields ?? {}) : {};
  const there = FIELDS.filter(([id]) => id === LEAST_GAP || gaps || id in fields);
  return (
    <>
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
        <span className="quiet">A path is played through the map, and in every area.</span>
      </div>
      {asked.state === "failed" ? (
        <Trouble role="alert">{asked.why}</Trouble>
      ) : asked.data && asked.key === key && field in asked.data.fields ? (
        <Heat {...{ field, units, document }} map={asked.data} />
      ) : (
        <p role="status">{gaps ? "Looking at the gaps…" : "Drawing the map…"}</p>
      )}
    </>
  );
}

type MapOut = NonNullable<Awaited<ReturnType<typeof server.map>>["data"]>;

const [WIDE, HIGH, LEFT, TOP, FOOT] = [940, 500, 70, 22, 46];

/** Where a pose stands on the drawing, and which pose a place on it is. */
function scalesIn(map: MapOut) {
  const { travel, articulation } = map;
  const [cellW, cellH] = [(WIDE - LEFT - 10) / articulation.length, (HIGH - TOP - FOOT) / travel.length];
  const [droop, bump, twist] = [travel[0]!, travel.at(-1)!, articulation.at(-1)!];
  const [wide, high] = [WIDE - LEFT - 10 - cellW, HIGH - TOP - FOOT - cellH];
  return {
    cellW,
    cellH,
    x: (a: number) => LEFT + cellW / 2 + ((a + twist) / (2 * twist || 1)) * wide,
    y: (t: number) => TOP + cellH / 2 + ((bump - t) / (bump - droop || 1)) * high,
    pose: (px: number, py: number) => ({
      articulation: ((px - LEFT - cellW / 2) / wide) * 2 * twist - twist,
      travel: bump - ((py - TOP - cellH / 2) / high) * (bump - droop),
    }),
  };
}

function Heat({
  field,
  units,
  map,
  document,
}: { field: string; units: Units; map: MapOut } & Pick<Shown, "document">) {
  const scrub = scrubbed(document, useScrub());
  const values = map.fields[field]!;
  const [, name, unit] = FIELDS.find(([id]) => id === field)!;
  const say = (v: number) => show(v, QUANTITIES[unit], units);
  const known = values.flat().filter((v): v is number => v !== null);
  const [low, high] = [Math.min(...known), Math.max(...known)];
  const { x, y, pose } = scalesIn(map);
  const pick = (event: React.MouseEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const at = pose(
      ((event.clientX - box.left) / box.width) * WIDE,
      ((event.clientY - box.top) / box.height) * HIGH,
    );
    toPose(scrubbed(document, at));
  };
  const [hereX, hereY] = [f(x(scrub.articulation)), f(y(scrub.travel))];
  return (
    <Drawing
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label={`${name} over travel and twist: from ${say(low)} to ${say(high)}`}
      onClick={pick}
      style={{ cursor: "crosshair" }}
    >
      <Cells {...{ map, values, low, high }} />
      <Said {...{ map, values, x, y, say }} />
      <Axes {...{ map, units, x, y }} />
      <path
        d={`M${hereX} ${TOP}V${HIGH - FOOT}M${LEFT} ${hereY}H${WIDE - 10}`}
        stroke="var(--accent)"
        fill="none"
      />
      <circle cx={hereX} cy={hereY} r={6} fill="var(--sheet)" stroke="var(--accent)" strokeWidth={3} />
      <text className="quiet" x={LEFT} y={HIGH - 6}>
        {name}: {say(low)} (light) to {say(high)} (dark). Hatched: stops and straps do not let it come there.
        Press to go to a pose.
      </text>
    </Drawing>
  );
}

/** Each pose's cell, darker the more; hatched where it is held back. */
function Cells(props: { map: MapOut; values: (number | null)[][]; low: number; high: number }) {
  const { map, values, low, high } = props;
  const { x, y, cellW, cellH } = scalesIn(map);
  const cells = map.travel.flatMap((t, row) =>
    map.articulation.map((a, column) => {
      const v = values[row]?.[column];
      if (v === null || v === undefined) return null;
      const box = {
        x: f(x(a) - cellW / 2),
        y: f(y(t) - cellH / 2),
        width: f(cellW + 0.4),
        height: f(cellH + 0.4),
      };
      const part = high === low ? 0 : (v - low) / (high - low);
      return (
        <g key={`${t} ${a}`}>
          <rect className="cell" {...box} fillOpacity={0.06 + 0.62 * part} />
          {!map.allowed[row]?.[column] && <rect className="held" {...box} />}
        </g>
      );
    }),
  );
  return (
    <>
      <defs>
        <pattern id="held" width={7} height={7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width={7} height={7} fill="var(--sheet)" fillOpacity={0.55} />
          <path d="M0 0V7" stroke="var(--line)" strokeWidth={1.6} />
        </pattern>
      </defs>
      {cells}
    </>
  );
}

type Scale = (v: number) => number;

const SAID = 5;

/** Its value in words in some of the cells, so that it is not told by shade alone. */
function Said(props: {
  map: MapOut;
  values: (number | null)[][];
  x: Scale;
  y: Scale;
  say: (v: number) => string;
}) {
  const { map, values, x, y, say } = props;
  const some = (count: number) =>
    Array.from({ length: SAID }, (_, n) => Math.round(((n + 0.5) / SAID) * (count - 1)));
  return some(map.travel.length).map((row) =>
    some(map.articulation.length).map((column) => {
      const v = values[row]?.[column];
      if (v === null || v === undefined) return null;
      return (
        <text
          key={`${row} ${column}`}
          x={f(x(map.articulation[column]!))}
          y={f(y(map.travel[row]!) + 4)}
          textAnchor="middle"
          stroke="var(--sheet)"
          strokeWidth={3}
          paintOrder="stroke"
        >
          {say(v)}
        </text>
      );
    }),
  );
}

function Axes({ map, units, x, y }: { map: MapOut; units: Units; x: Scale; y: Scale }) {
  const at = (list: number[]) =>
    [0, 0.25, 0.5, 0.75, 1].map((part) => list[Math.round(part * (list.length - 1))]!);
  return (
    <>
      {at(map.travel).map((t) => (
        <text key={t} x={LEFT - 8} y={f(y(t) + 4)} textAnchor="end">
          {lengthFigure(t, units)}
        </text>
      ))}
      <text className="quiet" x={4} y={13}>
        Travel, {unitSign(units)}
      </text>
      {at(map.articulation).map((a) => (
        <text key={a} x={f(x(a))} y={HIGH - FOOT + 17} textAnchor="middle">
          {a === 0 ? "level" : `${plain(Math.abs(a), 1)}° ${a > 0 ? "left up" : "right up"}`}
        </text>
      ))}
    </>
  );
}
