/** The order in which this build goes through its gates, and those that it leaves out, with why. */

import { useState } from "react";

import type { Document } from "../../document/document";
import { EditorBox } from "../../panels/EditorBox";
import { useDraft } from "../../state/drafts";
import { type Gate, gates, gatesOf, recordOf, withRecord } from "../../state/fitUp";
import { usePreferences } from "../../state/preferences";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Entries, Trouble, Typed } from "../../ui/controls";

const nameOf = (gate: Gate): string => gates().find(({ id }) => id === gate)!.name;

/** Gates that one asks for and that come after it in this order, or not at all. */
export function missedBy(order: readonly Gate[]): string[] {
  return order.flatMap((gate, n) => {
    const late = gates()
      .find(({ id }) => id === gate)!
      .after.filter((wanted) => !order.slice(0, n).includes(wanted));
    return late.length > 0 ? [`${nameOf(gate)} asks for: ${late.map(nameOf).join(", ").toLowerCase()}.`] : [];
  });
}

export function OrderOfGates({ document, truck }: { document: Document; truck: TruckDocument }) {
  const record = recordOf(truck, document);
  const [open, setOpen] = useState(false);
  const own = record.gate_order;
  return (
    <section aria-label="Order of the gates">
      {own && (
        <p>
          This build has its own order{own.by && `, by ${own.by}`}: {own.reason}
        </p>
      )}
      {!open && <Button onPress={() => setOpen(true)}>Change the order of this build’s gates</Button>}
      {open && <Changed {...{ document, truck }} onClose={() => setOpen(false)} />}
    </section>
  );
}

interface Changing {
  document: Document;
  truck: TruckDocument;
  onClose: () => void;
}

function Changed({ document, truck, onClose }: Changing) {
  const record = recordOf(truck, document);
  const [order, setOrder] = useState<readonly Gate[]>(gatesOf(record).map(({ id }) => id));
  const [reason, setReason] = useDraft("order of the gates", "");
  const [why, setWhy] = useState<string | null>(null);
  const { by, setBy } = usePreferences();
  const out = gates().filter(({ id }) => !order.includes(id));
  const put = async (next: NonNullable<typeof record.gate_order> | null) => {
    const amiss = next && next.reason === "" ? "Write down why first." : null;
    setWhy(amiss);
    if (
      amiss === null &&
      (await useTruck.getState().edit(withRecord(truck, document, { ...record, gate_order: next })))
    ) {
      setReason("");
      onClose();
    }
  };
  const usual = order.length === gates().length && gates().every(({ id }, n) => id === order[n]);
  return (
    <EditorBox>
      <ol aria-label="Gates of this build" style={{ margin: 0, paddingLeft: 22 }}>
        {order.map((gate, n) => (
          <Place key={gate} {...{ gate, n, order, setOrder }} />
        ))}
      </ol>
      {out.map(({ id, name }) => (
        <Button key={id} onPress={() => setOrder([...order, id])}>{`Put back: ${name}`}</Button>
      ))}
      {missedBy(order).map((words) => (
        <Trouble key={words} role="status">{`${words} It will not pass without them but with a written reason.`}</Trouble>
      ))}
      <Entries aria-label="Why this order" onSubmit={(event) => event.preventDefault()}>
        <Typed words="Why" value={reason} onChange={setReason} />
        <Typed words="Who" value={by} onChange={setBy} />
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      <div className="row">
        <Button isDisabled={order.length === 0} onPress={() => void put(usual ? null : { gates: [...order], reason: reason.trim(), by: by.trim(), at: new Date().toISOString() })}>
          Take this order
        </Button>
        {record.gate_order && <Button onPress={() => void put(null)}>Back to the usual order</Button>}
        <Button onPress={onClose}>Leave it</Button>
      </div>
    </EditorBox>
  ); // prettier-ignore
}

interface OfPlace {
  gate: Gate;
  n: number;
  order: readonly Gate[];
  setOrder: (order: readonly Gate[]) => void;
}

function Place({ gate, n, order, setOrder }: OfPlace) {
  const rest = order.filter((one) => one !== gate);
  const name = nameOf(gate);
  return (
    <li>
      <div style={{ display: "flex", gap: "0.375rem", alignItems: "center" }}>
        <span style={{ flex: 1 }}>{name}</span>
        <Button
          aria-label={`Earlier: ${name}`}
          isDisabled={n === 0}
          onPress={() => setOrder(rest.toSpliced(n - 1, 0, gate))}
        >
          ↑
        </Button>
        <Button
          aria-label={`Later: ${name}`}
          isDisabled={n === order.length - 1}
          onPress={() => setOrder(rest.toSpliced(n + 1, 0, gate))}
        >
          ↓
        </Button>
        <Button aria-label={`Leave out: ${name}`} onPress={() => setOrder(rest)}>
          Leave out
        </Button>
      </div>
    </li>
  );
}
