/** The cutting service: what it takes of this revision, for how much, and the order, which is then waited for. */

import { useEffect, useState } from "react";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { useDesign } from "../../state/design";
import { changeOrder, daySaid, listedJob, today } from "../../state/orders";
import { Button, Trouble } from "../../ui/controls";
import type { Units } from "../../units/tape";

type Quote = Schemas["Quote"];

/** Whether there is one, asked once. */
function useService(): boolean {
  const [there, setThere] = useState(false);
  useEffect(() => {
    let left = false;
    server.cutting().then(
      ({ data }) => !left && setThere(data?.there ?? false),
      () => undefined, // a server that is away is said elsewhere
    );
    return () => {
      left = true;
    };
  }, []);
  return there;
}

export function Service({
  id,
  document,
  units,
  plates,
}: {
  id: number;
  document: Document;
  units: Units;
  plates: number;
}) {
  // prettier-ignore
  const there = useService();
  const stored = useDesign((s) => s.sync.state === "stored");
  const number = useDesign((s) => s.stored?.number);
  const [quoted, setQuoted] = useState<{ of: number; quote: Quote } | null>(null);
  const [busy, setBusy] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  if (!there || plates === 0) return null;
  const ask = async () => {
    setBusy(true);
    setWhy(null);
    setQuoted(null);
    try {
      const { data, error } = await server.quoteCutting(id, {
        units,
        paper: units === "mm" ? "a4" : "letter",
      });
      if (data && number !== undefined) setQuoted({ of: number, quote: data });
      else setWhy(reasonOf(error));
    } catch {
      setWhy(NO_SERVER);
    }
    setBusy(false);
  };
  return (
    <section aria-label="Cutting service">
      <h2>Cutting service</h2>
      <Button isDisabled={!stored || busy} onPress={() => void ask()}>
        {busy ? "Asking…" : `What does it take of revision ${number}?`}
      </Button>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      {quoted && <Quoted {...{ document, plates }} {...quoted} stale={quoted.of !== number} />}
    </section>
  ); // prettier-ignore
}

interface OfQuote {
  document: Document;
  plates: number;
  of: number;
  quote: Quote;
  /** The design has moved on since. */
  stale: boolean;
}

function Quoted({ document, plates, of, quote, stale }: OfQuote) {
  const [said, setSaid] = useState<string | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const taken = plates - quote.refused.length;
  const order = async () => {
    setWhy(null);
    try {
      // listed before it is asked for: an order whose answer nobody saw is on the list all the same
      const listed = await listedJob(document, {
        what: `Plates of ${document.name}, revision ${of}`,
        of: "Cutting service",
        gate: "tacked",
        price: quote.price ?? null,
        job: quote.job,
      });
      const { data, error } = await server.orderCutting({ job: quote.job });
      if (!data) {
        setWhy(`${reasonOf(error)} Ordering it again makes no second order.`);
        return;
      }
      setSaid(`Ordered as job ${quote.job}${data.due ? `, due ${daySaid(data.due)}` : ""}.`);
      if (listed) await changeOrder(document, listed, { ordered: today(), due: data.due ?? null });
    } catch {
      setWhy(NO_SERVER);
    }
  };
  return (
    <>
      <p role="status">{priced(quote, taken)}</p>
      {quote.refused.length > 0 && (
        <ul aria-label="What it refuses">
          {quote.refused.map(({ part, why: no }) => (
            <li key={part}>{`${part}: ${no}.`}</li>
          ))}
        </ul>
      )}
      {stale && <p role="status">The design has moved on since revision {of}: ask again.</p>}
      {taken > 0 && said === null && (
        <Button isDisabled={stale} onPress={() => void order()}>
          {quote.refused.length > 0 ? "Order the rest" : "Order it"}
        </Button>
      )}
      {said !== null && <p role="status">{said} It is on the waiting list of Fit-up.</p>}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </>
  );
}

function priced({ price, currency, days }: Quote, taken: number): string {
  if (taken <= 0) return "It takes none of the plates.";
  const cost = price == null ? "no price" : `${price.toFixed(2)}${currency ? ` ${currency}` : ""}`;
  return `It takes ${taken} plate${taken > 1 ? "s" : ""}: ${cost}, ${days == null ? "no day said" : `in ${days} days`}.`;
}
