/** A built truck that misbehaves: which of this design's figures could cause it, and which of them stand out. */

import { type Schemas, server } from "../../api/client";
import { bandWords, QUANTITIES, show } from "../../figures/readings";
import { goTo, useSelection } from "../../state/selection";
import { useSolver } from "../../state/solver";
import { FindingPane } from "../../panels/FindingPane";
import { useAsked } from "../../solve/asking";
import { Button, Trouble } from "../../ui/controls";
import type { Units } from "../../units/tape";
import type { Shown } from "./Cycle";

type Explained = Schemas["Explained"];
type Cause = Schemas["Cause"];

export function Complaints(shown: Shown) {
  const { document, units, solved } = shown;
  const key = JSON.stringify(document);
  const asked = useAsked(key, (signal) => server.complaints({ document }, signal), 300);
  const { finding: id, find } = useSelection();
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  if (!asked.data) return <p role="status">Going through the figures…</p>;
  const chosen = solved?.answer.findings.find((f) => f.id === id);
  return (
    <div data-stale={asked.key !== key} style={{ display: "grid", gap: 10 }}>
      <p className="quiet">
        What a built truck may be blamed for, and the figures of this design that could cause it. Those out of
        their bands on the side that would cause it stand out; what no figure bears out is not said.
      </p>
      {chosen && (
        <section
          aria-label={chosen.title}
          style={{
            border: "1px solid var(--line)",
            padding: "0.5rem 0.75rem",
            maxWidth: "46rem",
            display: "grid",
            gap: 8,
          }}
        >
          <div className="line">
            <h2>{chosen.title}</h2>
            <Button onPress={() => find(null)}>Put it away</Button>
          </div>
          <FindingPane key={chosen.id} {...{ document, solved, units }} finding={chosen} />
        </section>
      )}
      {asked.data.map((one) => (
        <One key={one.complaint} {...{ one, units }} />
      ))}
    </div>
  );
}

const go = (id: string) => {
  const finding = useSolver.getState().solved?.answer.findings.find((f) => f.id === id);
  if (finding) goTo(finding);
};

function One({ one, units }: { one: Explained; units: Units }) {
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
