/** What changed on the truck since the open design was stored, and what that did to its figures; until it is read. */

import styled from "styled-components";

import type { Schemas } from "../api/client";
import { QUANTITIES, show } from "../figures/readings";
import { showTruck } from "../figures/truck";
import { Button } from "../ui/controls";
import type { Units } from "../units/tape";
import { useTruck } from "../state/truck";

const Strip = styled.div`
  grid-row: 3;
  display: flex;
  gap: 0.875rem;
  align-items: center;
  padding: 0.375rem 0.875rem;
  background: var(--accent-soft);
  border-bottom: 1px solid var(--hair);
  font-size: 0.9062rem;
  p {
    flex: 1;
  }
`;

const MOST = 4;

/** "Height of the center of gravity 35 5/8 in, was 31 in". */
export const changeSaid = (change: Schemas["Difference"], units: Units): string =>
  `${change.words} ${showTruck(change.file, change.unit, units)}, was ${showTruck(change.truck, change.unit, units)}`;

export function effectSaid(moved: Schemas["Moved"], units: Units): string {
  const unit = moved.unit;
  const grave = moved.was === moved.severity ? "" : ` (${moved.severity}, was ${moved.was})`;
  const name = `${moved.name.slice(0, 1).toLowerCase()}${moved.name.slice(1)}`;
  if (unit === null || (moved.before === null && moved.after === null)) return `${name}${grave}`;
  const [before, after] = [moved.before, moved.after].map((v) => show(v, QUANTITIES[unit], units));
  return `${name} ${before} → ${after}${grave}`;
}

export function SinceStrip({ units }: { units: Units }) {
  const { since, readSince } = useTruck();
  if (!since) return <div />;
  const effects = since.figures.map((moved) => effectSaid(moved, units));
  const rest = effects.length > MOST ? `; and ${effects.length - MOST} more` : "";
  return (
    <Strip role="status" data-testid="since">
      <p>
        The truck changed since this was stored: {since.changes.map((c) => changeSaid(c, units)).join("; ")}.{" "}
        {effects.length > 0
          ? `It did this: ${effects.slice(0, MOST).join("; ")}${rest}.`
          : "Nothing that is judged changed by it."}
      </p>
      <Button onPress={readSince}>Read</Button>
    </Strip>
  );
}
