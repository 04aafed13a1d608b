/** Two sites against each other: a plate with a hole for each combination, filled the more the higher its figure. */

import { useMemo } from "react";
import styled from "styled-components";

import { show } from "../../figures/readings";
import type { Units } from "../../units/tape";
import { type HoleMap, type Shade, unitOf, valueOf } from "./Holes";

const PITCH = 58;
const RADIUS = 24;
const LEFT = 30;

const Plate = styled.svg`
  width: 100%;
  height: auto;
  max-height: 20rem;
  .plate {
    fill: var(--sheet);
    stroke: var(--ink);
  }
  .hole {
    stroke: var(--ink);
    cursor: pointer;
  }
  .hole[data-inside="true"] {
    stroke-width: 3;
  }
  .use {
    fill: none;
    stroke: var(--accent);
    stroke-width: 2.5;
    stroke-dasharray: 5 3;
  }
  .looked {
    fill: none;
    stroke: var(--accent);
    stroke-width: 2.5;
  }
  .against {
    stroke: var(--stop);
    stroke-width: 2.5;
  }
  text {
    font-size: 12px;
    fill: var(--ink);
    pointer-events: none;
  }
`;

interface Given {
  map: HoleMap;
  shade: Shade;
  across: number;
  up: number;
  base: readonly number[];
  chosen: number | null;
  units: Units;
  names: string[];
  onChoose: (combination: number) => void;
}

const WINDOW = ["anti_squat", "ic_length"] as const;

/** How holes look that are not on the plate's own axes: the figure's ends, and which stand inside the window. */
function useReading(map: HoleMap, shade: Shade) {
  return useMemo(() => {
    const all = map.combinations.flatMap((one) => valueOf(one, shade) ?? []);
    const [low, high] = [Math.min(...all), Math.max(...all)];
    const inside = (n: number): boolean =>
      WINDOW.every((id) => {
        const value = valueOf(map.combinations[n]!, id);
        const [least, most] = map.windows[id] ?? [null, null];
        return value !== null && (least === null || value >= least) && (most === null || value <= most);
      });
    const part = (value: number | null) =>
      value === null || high === low ? 0 : (value - low) / (high - low);
    return {
      inside,
      part,
      places: new Map(map.combinations.map((one, n) => [one.at.join(), n])),
      against: new Map(map.against.map(({ combination, words }) => [combination, words])),
    };
  }, [map, shade]);
}

/** The combinations of a plate, all other sites as in `base`. */
function plateOf({ map, across, up, base }: Pick<Given, "map" | "across" | "up" | "base">) {
  const columns = map.sites[across]!.holes.length;
  const rows = across === up ? 1 : map.sites[up]!.holes.length;
  const holes = Array.from({ length: rows * columns }, (_, n) => {
    const [row, column] = [Math.floor(n / columns), n % columns];
    const at = base.map((was, site) => (site === across ? column : site === up ? row : was));
    return { row, column, at: at.join() };
  });
  return { rows, columns, holes };
}

const shaded = (part: number) => `color-mix(in srgb, var(--ink) ${Math.round(34 * part)}%, var(--sheet))`;

const SMALL = 12;

/** The same plate small, without its numbers: where the window lies, and what speaks against what. */
export function SmallMap(given: Pick<Given, "map" | "shade" | "across" | "up" | "base">) {
  const { inside, part, places, against } = useReading(given.map, given.shade);
  const { rows, columns, holes } = plateOf(given);
  return (
    <svg width={columns * SMALL} height={rows * SMALL} aria-hidden="true" data-small={given.base.join()}>
      {holes.map(({ row, column, at }) => {
        const n = places.get(at);
        const [x, y] = [(column + 0.5) * SMALL, (rows - row - 0.5) * SMALL];
        const value = n === undefined ? null : valueOf(given.map.combinations[n]!, given.shade);
        const within = n !== undefined && inside(n);
        return (
          <g key={at}>
            <circle
              cx={x}
              cy={y}
              r={4}
              fill={shaded(part(value))}
              stroke="var(--ink)"
              strokeWidth={within ? 2 : 0.75}
              data-inside={within}
            />
            {n !== undefined && (against.get(n)?.length ?? 0) > 0 && (
              <path d={`M${x - 4} ${y + 4}L${x + 4} ${y - 4}`} stroke="var(--stop)" strokeWidth={1.5} />
            )}
          </g>
        );
      })}
    </svg>
  );
}

export function HolePlate({ map, shade, across, up, base, chosen, units, names, onChoose }: Given) {
  const { inside, part, places, against } = useReading(map, shade);
  const { rows, columns, holes } = plateOf({ map, across, up, base });
  const [wide, tall] = [LEFT + columns * PITCH + 8, rows * PITCH + 22];
  const where = (row: number, column: number) =>
    `${names[across]!} hole ${column + 1}` + (across === up ? "" : `, ${names[up]!} hole ${row + 1}`);
  return (
    <>
      <p>
        {names[across]} across{across === up ? "" : `, ${names[up]!} up`}. A heavy rim stands inside the
        window of anti-squat and instant center length; the dashed one is in use; a red stroke: something
        speaks against it.
      </p>
      <Plate
        viewBox={`0 0 ${wide} ${tall}`}
        role="group"
        aria-label={`${names[across]!} across, ${names[up]!} up`}
      >
        <rect className="plate" x={LEFT} y={2} width={columns * PITCH} height={rows * PITCH} rx={10} />
        {holes.map(({ row, column, at }) => {
          const n = places.get(at);
          const [x, y] = [LEFT + (column + 0.5) * PITCH, 2 + (rows - row - 0.5) * PITCH];
          if (n === undefined) return <circle key={`${row} ${column}`} cx={x} cy={y} r={RADIUS} className="hole" fill="none" />; // prettier-ignore
          const value = valueOf(map.combinations[n]!, shade);
          return (
            <Hole
              key={n}
              {...{ x, y }}
              where={where(row, column)}
              value={show(value, unitOf(shade), units)}
              part={part(value)}
              inside={inside(n)}
              inUse={n === map.now}
              looked={n === chosen}
              against={against.get(n) ?? []}
              onPress={() => onChoose(n)}
            />
          );
        })}
        <Numbers {...{ rows, columns, tall }} up={across !== up} />
      </Plate>
    </>
  );
}

interface OfHole {
  x: number;
  y: number;
  where: string;
  value: string;
  part: number;
  inside: boolean;
  inUse: boolean;
  looked: boolean;
  against: readonly string[];
  onPress: () => void;
}

function Hole({ x, y, where, value, part, inside, inUse, looked, against, onPress }: OfHole) {
  const words = [
    where,
    value,
    ...(inside ? ["inside the window"] : []),
    ...(inUse ? ["in use"] : []),
    ...(against.length > 0 ? [`against it: ${against.join(", ")}`] : []),
  ].join(", ");
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={words}
      aria-pressed={looked}
      onClick={onPress}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        onPress();
      }}
    >
      <title>{words}</title>
      <circle className="hole" data-inside={inside} cx={x} cy={y} r={RADIUS} fill={shaded(part)} />
      {inUse && <circle className="use" cx={x} cy={y} r={RADIUS + 3} />}
      {looked && <circle className="looked" cx={x} cy={y} r={RADIUS - 4} />}
      {against.length > 0 && <path className="against" d={`M${x - 15} ${y + 15}L${x + 15} ${y - 15}`} />}
      <text x={x} y={y + 4} textAnchor="middle">
        {value.replace(/ (in|mm)$/, "")}
      </text>
    </g>
  );
}

function Numbers({ rows, columns, tall, up }: { rows: number; columns: number; tall: number; up: boolean }) {
  return (
    <>
      {Array.from({ length: columns }, (_, n) => (
        <text key={n} x={LEFT + (n + 0.5) * PITCH} y={tall - 5} textAnchor="middle">
          {n + 1}
        </text>
      ))}
      {up &&
        Array.from({ length: rows }, (_, n) => (
          <text key={n} x={LEFT - 8} y={6 + (rows - n - 0.5) * PITCH} textAnchor="end">
            {n + 1}
          </text>
        ))}
    </>
  );
}
