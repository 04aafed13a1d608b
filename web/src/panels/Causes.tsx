/** What could be behind a complaint about a built truck: figures of the design, those that stand out first. */

import type { Schemas } from "../api/client";
import { bandWords, QUANTITIES, show } from "../figures/readings";
import { goTo } from "../state/selection";
import { useSolver } from "../state/solver";
import { Button } from "../ui/controls";
import type { Units } from "../units/tape";

export type Explained = Schemas["Explained"];
type Cause = Schemas["Cause"];

const go = (id: string) => {
  const finding = useSolver.getState().solved?.answer.findings.find((f) => f.id === id);
  if (finding) goTo(finding);
};

export function Causes({ one, units }: { one: Explained; units: Units }) {
  const out = one.causes.filter((cause) => cause.stands_out);
  const inside = one.causes.filter((cause) => cause.stands_out === false);
  const unknown = one.causes.filter((cause) => cause.stands_out === null);
  return (
    <details open={out.length > 0}>
      <summary>
        <strong>{one.words}</strong>:{" "}
        {out.length > 0
          ? `${out.length} ${out.length === 1 ? "figure stands" : "figures stand"} out`
          : "no figure here stands out"}
      </summary>
      <ul>
        {[...out, ...inside].map((cause) => (
          <li key={cause.finding ?? cause.figure}>
            <CauseLine {...{ cause, units }} />
          </li>
        ))}
      </ul>
      {unknown.length > 0 && (
        <p className="quiet">
          Nothing is known here of: {unknown.map((cause) => cause.name.toLowerCase()).join(", ")}.
        </p>
      )}
    </details>
  );
}

function CauseLine({ cause, units }: { cause: Cause; units: Units }) {
  const quantity = QUANTITIES[cause.unit ?? "mm"];
  const value = cause.value === null ? "" : ` ${show(cause.value, quantity, units)}`;
  return (
    <>
      {cause.stands_out ? "■ " : "○ "}
      <strong>
        {cause.name}
        {value}
      </strong>{" "}
      ({bandWords(cause.low, cause.high, quantity, units)}): {cause.how}.{" "}
      {cause.stands_out && cause.finding && (
        <Button onPress={() => go(cause.finding!)}>What it takes to change it</Button>
      )}
    </>
  );
}
