/** What to ask of which instrument on the bench for a reading of the truck. */

import type { Taking } from "./reading";

/** What to ask which instrument for; null where that is not known yet. */
export function askedOf(taking: Taking): { instrument: string; what: string } | null {
  const { kind, from, to, of, face, end, side, raised, by } = taking;
  if (kind === "angle") return { instrument: "gauge", what: `${of} ${face}` };
  if (kind === "scale") {
    const up = raised === "level" ? "level" : `${raised} ${by}`;
    return { instrument: "scale", what: `${end} ${side} ${up}` };
  }
  if (from === "") return null;
  return { instrument: "tape", what: kind === "height" ? `height ${from}` : `${kind} ${from} ${to}` };
}
