/** The gates in the order of the work: how each was left, by whom, and what stands open before it. */

import { useState } from "react";

import { useDraft } from "../../state/drafts";
import { usePreferences } from "../../state/preferences";
import { useTruck } from "../../state/truck";
import { Button, Entries, Typed } from "../../ui/controls";
import { EditorBox } from "../../panels/EditorBox";
import type { Shown } from "./FitUp";
import { LogFile } from "./LogFile";
import { OnPaper } from "./OnPaper";
import { OrderOfGates } from "./OrderOfGates";
import { WeldOrder } from "./WeldOrder";
import {
  type Gate,
  gates,
  gatesOf,
  type Mark,
  markOf,
  nextGate,
  openBefore,
  recordOf,
  withRecord,
} from "../../state/fitUp";

const RESULTS: Record<Mark["result"], string> = {
  passed: "Passed",
  failed: "Failed",
  reason: "Passed with a reason",
};
const SHAPES: Record<Mark["result"], string> = { passed: "✓", failed: "✕", reason: "!" };

export function Gates({ document, truck, units }: Shown) {
  const record = recordOf(truck, document);
  const [open, setOpen] = useState<Gate | null>(nextGate(record));
  return (
    <section aria-label="Gates">
      <ol style={{ listStyle: "none", margin: 0, padding: 0 }}>
        {gatesOf(record).map(({ id, name }) => {
          const mark = markOf(record, id);
          return (
            <li key={id} style={{ borderBottom: "1px solid var(--hair)" }}>
              <button
                type="button"
                data-gate={id}
                aria-expanded={open === id}
                style={ROW}
                onClick={() => setOpen(open === id ? null : id)}
              >
                <span aria-hidden="true">{mark ? SHAPES[mark.result] : "○"}</span>
                <span>{name}</span>
                <span className="quiet">{mark ? RESULTS[mark.result] : "open"}</span>
              </button>
              {open === id && <Opened gate={id} {...{ document, truck }} />}
            </li>
          );
        })}
      </ol>
      <OrderOfGates key={JSON.stringify(record.gate_order ?? null)} {...{ document, truck }} />
      <OnPaper units={units} />
      <LogFile {...{ document, truck }} />
      <p className="quiet">
        A passed gate is an estimate from the figures entered, not an approval. Support the truck on rated
        stands; springs, air bags and gas shocks are stored energy. Never work under a truck held by a jack.
      </p>
    </section>
  );
}

const ROW = {
  display: "grid", gridTemplateColumns: "1.25rem minmax(0, 1fr) auto", gap: "0.375rem", alignItems: "center",
  width: "100%", minHeight: "var(--touch)", padding: "2px 4px", border: 0, background: "none", textAlign: "left",
  cursor: "pointer",
} as const; // prettier-ignore

function Opened({ gate, document, truck }: Omit<Shown, "units"> & { gate: Gate }) {
  const record = recordOf(truck, document);
  const { by, setBy } = usePreferences();
  const [reason, setReason] = useDraft(`gate ${gate}`, "");
  const [why, setWhy] = useState<string | null>(null);
  const { asks } = gates().find(({ id }) => id === gate)!;
  const before = openBefore(record, gate);
  const mark = markOf(record, gate);
  const leave = (result: Mark["result"]) => {
    const written = reason.trim();
    const amiss = amissIn(result, written, before);
    setWhy(amiss);
    if (amiss !== null) return;
    const next = { gate, result, reason: written, by: by.trim(), at: new Date().toISOString() };
    void useTruck
      .getState()
      .edit(withRecord(truck, document, { ...record, gates: [...record.gates, next] }))
      .then((stored) => stored && setReason(""));
  };
  return (
    <EditorBox>
      <p>{asks}</p>
      {gate === "final_weld" && <WeldOrder document={document} />}
      {before.length > 0 && (
        <p className="quiet">Stands open before it: {before.join(", ").toLowerCase()}.</p>
      )}
      {mark && <Left mark={mark} />}
      <Entries onSubmit={(event) => event.preventDefault()}>
        <Typed words="Who" value={by} onChange={setBy} />
        <Typed words="Reason, or what was seen" value={reason} onChange={setReason} />
      </Entries>
      {why !== null && <p role="alert">{why}</p>}
      <div className="row">
        <Button onPress={() => leave("passed")}>Pass it</Button>
        <Button onPress={() => leave("reason")}>Pass it with a reason</Button>
        <Button onPress={() => leave("failed")}>It failed</Button>
      </div>
    </EditorBox>
  );
}

/** Why a gate can't be left so. */
function amissIn(result: Mark["result"], written: string, before: readonly string[]): string | null {
  if (result === "reason" && written === "") return "Write the reason down first.";
  if (result === "passed" && before.length > 0)
    return `Not passed yet: ${before.join(", ").toLowerCase()}. Pass it with a reason, or those first.`;
  return null;
}

const Left = ({ mark }: { mark: Mark }) => (
  <p>
    {RESULTS[mark.result]}
    {mark.by && ` by ${mark.by}`}
    {mark.at && `, ${mark.at.slice(0, 16).replace("T", " ")}`}
    {mark.reason && `: ${mark.reason}`}.
  </p>
);
