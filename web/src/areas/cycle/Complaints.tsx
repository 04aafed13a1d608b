/** A built truck that misbehaves: which of this design's figures could cause it, and which of them stand out. */

import { server } from "../../api/client";
import { useSelection } from "../../state/selection";
import { Causes } from "../../panels/Causes";
import { FindingPane } from "../../panels/FindingPane";
import { useAsked } from "../../solve/asking";
import { Button, Trouble } from "../../ui/controls";
import type { Shown } from "./Cycle";

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
        <Causes key={one.complaint} {...{ one, units }} />
      ))}
    </div>
  );
}
