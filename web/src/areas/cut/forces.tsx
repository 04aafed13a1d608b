/** Forces of a load case: asked once for a design, listed in the pane and drawn as arrows on the floor. */

import { useMemo } from "react";

import { type Schemas, server } from "../../api/client";
import type { Document, Point } from "../../document/document";
import type { Layer } from "../../floor/Drawing";
import { type Aim, type Cell, f, projector, type View } from "../../floor/geometry";
import { useAsked } from "../../solve/asking";
import { useCase } from "../../state/case";
import { showForce } from "../../units/forces";
import type { Units } from "../../units/tape";

export type LoadsOut = Schemas["LoadsOut"];
export type Case = LoadsOut["cases"][number];
type Push = Case["pushes"][number];

export function useLoads(document: Document, wanted: boolean) {
  const key = wanted ? JSON.stringify(document) : null;
  return { key, asked: useAsked<LoadsOut>(key, (signal) => server.loads({ document }, signal), 120) };
}

export const caseOf = (found: LoadsOut | null | undefined, id: string): Case | undefined =>
  found?.cases.find((one) => one.id === id) ?? found?.cases[0];

/** The longest arrow, mm on the floor, and the least that is drawn, as a part of it. */
const LONGEST_MM = 320;
const LEAST = 0.02;
/** A spring’s push is drawn where it stands; a pressed bar’s arrow is dashed. */
const DASH = "7 4";

const sizeOf = (force: readonly number[]) => Math.hypot(...force);

/** Whether an arrow presses its bar: it points from the bar’s other end to this one. */
function presses(push: Push, pushes: readonly Push[]): boolean {
  const other = pushes.find((one) => one.part === push.part && one.on !== push.on);
  if (!other) return false;
  return push.force.reduce((sum, v, i) => sum + v * (push.at[i]! - other.at[i]!), 0) > 0;
}

export function useForces(document: Document, units: Units, wanted: boolean): readonly Layer[] {
  const { asked } = useLoads(document, wanted);
  const id = useCase((s) => s.id);
  const pushes = wanted ? caseOf(asked.data, id)?.pushes : undefined;
  return useMemo(() => {
    const most = Math.max(...(pushes ?? []).map(({ force }) => sizeOf(force)));
    if (!pushes || !(most > 0)) return [];
    const drawn = pushes.filter(({ force }) => sizeOf(force) > LEAST * most);
    return [
      {
        lines: (view, aim, cell) =>
          drawn.map((push, n) => (
            <Arrow key={n} {...{ push, view, aim, cell, units }} scale={LONGEST_MM / most} dashed={presses(push, pushes)} />
          )), // prettier-ignore
        grips: () => null,
      },
    ];
  }, [pushes, units]);
}

interface Drawn {
  push: Push;
  view: View;
  aim: Aim;
  cell: Cell;
  units: Units;
  scale: number;
  dashed: boolean;
}

function Arrow({ push, view, aim, cell, units, scale, dashed }: Drawn) {
  const to = projector(view, aim, cell);
  const [x, y] = to(push.at);
  const [u, v] = to(push.at.map((at, i) => at + scale * push.force[i]!) as unknown as Point);
  const long = Math.hypot(u - x, v - y);
  if (long < 4) return null;
  const [a, b] = [(u - x) / long, (v - y) / long];
  const head = `M${f(u)} ${f(v)}L${f(u - 9 * a + 4 * b)} ${f(v - 9 * b - 4 * a)}L${f(u - 9 * a - 4 * b)} ${f(v - 9 * b + 4 * a)}Z`;
  return (
    <g>
      <line
        x1={x}
        y1={y}
        x2={u - 7 * a}
        y2={v - 7 * b}
        stroke="var(--accent)"
        strokeWidth={2}
        strokeDasharray={dashed ? DASH : undefined}
      />
      <path d={head} fill="var(--accent)" />
      <title>{`${push.part}: ${showForce(sizeOf(push.force), units)}`}</title>
    </g>
  );
}
