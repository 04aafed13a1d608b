/** One thing that is waited for: how many, of whom, the price, the days, and which gate waits for it. */

import { useState } from "react";

import { NO_SERVER, reasonOf, server } from "../../api/client";
import type { Document } from "../../document/document";
import { EditorBox } from "../../panels/EditorBox";
import { useTexts } from "../../state/drafts";
import {
  type Change,
  changeOrder,
  daySaid,
  dayTyped,
  dropOrder,
  NO_GATE,
  type Order,
  priceTyped,
  today,
  waiting,
} from "../../state/orders";
import { Button, Choice, Entries, Toggle, Trouble, Typed } from "../../ui/controls";

type Texts = Record<string, string>;

/** What is typed of an order, or what is wrong with it. */
function typed(texts: Texts): Change | { why: string } {
  const { what = "", count = "", of = "" } = texts;
  const [price, ordered, due] = [
    priceTyped(texts["price"] ?? ""),
    dayTyped(texts["ordered"] ?? ""),
    dayTyped(texts["due"] ?? ""),
  ];
  const amiss = [price, ordered, due].find((one) => one !== null && typeof one === "object");
  if (amiss) return amiss;
  const many = Number(count);
  if (!Number.isInteger(many) || many < 1 || many > 1000) return { why: "How many is a whole number." };
  if (what.trim() === "") return { why: "Say what is waited for." };
  return {
    what: what.trim(), of: of.trim(), count: many, price: price as number | null,
    ordered: ordered as string | null, due: due as string | null,
  }; // prettier-ignore
}

export function OrderEdited({ document, order }: { document: Document; order: Order }) {
  const [texts, setTexts] = useTexts(`order ${order.id}`);
  const [why, setWhy] = useState<string | null>(null);
  const stands: Texts = {
    what: order.what, count: String(order.count), of: order.of, price: order.price?.toString() ?? "",
    ordered: order.ordered ?? "", due: order.due ?? "",
  }; // prettier-ignore
  const shown = { ...stands, ...texts };
  const put = async () => {
    const next = typed(shown);
    const amiss = "why" in next ? String(next.why) : null;
    setWhy(amiss);
    if (amiss === null && (await changeOrder(document, order.id, next))) setTexts({});
  };
  return (
    <EditorBox>
      <Entries
        aria-label={`Change ${order.what}`}
        onSubmit={(event) => {
          event.preventDefault();
          void put();
        }}
      >
        {FIELDS.map(([key, words]) => (
          <Typed
            key={key}
            words={words}
            value={shown[key]!}
            onChange={(text) => setTexts({ ...texts, [key]: text })}
          />
        ))}
        <Button type="submit">Take it so</Button>
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      <div className="row">
        <Choice
          label="Which gate waits for it"
          value={order.gate ?? NO_GATE}
          options={waiting()}
          onChange={(gate) => void changeOrder(document, order.id, { gate: gate === NO_GATE ? null : gate })}
        />
        <Toggle isSelected={order.here} onChange={(here) => void changeOrder(document, order.id, { here })}>
          It is here
        </Toggle>
        <Button onPress={() => void dropOrder(document, order.id)}>Take it off the list</Button>
      </div>
      {order.job && <HowFar {...{ document, order }} />}
    </EditorBox>
  );
}

const FIELDS = [
  ["what", "What"],
  ["count", "How many"],
  ["of", "From whom"],
  ["price", "Price, all of it"],
  ["ordered", "Ordered on (2026-03-09)"],
  ["due", "Due on (2026-03-09)"],
] as const;

const STATES = {
  quoted: "not ordered there yet",
  ordered: "ordered",
  cutting: "being cut",
  sent: "sent",
  stopped: "stopped: ask why",
} as const;

/** What the cutting service says of a job. */
function HowFar({ document, order }: { document: Document; order: Order }) {
  const [said, setSaid] = useState<string | null>(null);
  const ask = async () => {
    try {
      const { data, error } = await server.cuttingState({ job: order.job });
      if (!data) {
        setSaid(reasonOf(error));
        return;
      }
      setSaid(
        `${STATES[data.state]}${data.due ? `, due ${daySaid(data.due)}` : ""}${data.note ? `: ${data.note}` : ""}.`,
      );
      const ordered = data.state === "quoted" ? order.ordered : (order.ordered ?? today());
      if ((data.due ?? null) !== (order.due ?? null) || ordered !== order.ordered)
        await changeOrder(document, order.id, {
          due: data.due ?? order.due ?? null,
          ordered: ordered ?? null,
        });
    } catch {
      setSaid(NO_SERVER);
    }
  };
  return (
    <div>
      <Button onPress={() => void ask()}>{`How far is job ${order.job}?`}</Button>
      {said !== null && <p role="status">{said}</p>}
    </div>
  );
}
