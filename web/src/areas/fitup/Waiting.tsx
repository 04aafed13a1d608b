/** What is waited for, what can be done meanwhile, and the days it comes to. */

import { useState } from "react";

import { type Schemas, server } from "../../api/client";
import { EditorBox } from "../../panels/EditorBox";
import { OpeningRow } from "../../panels/OpeningRow";
import { useAsked } from "../../solve/asking";
import { useDraft } from "../../state/drafts";
import { recordOf } from "../../state/fitUp";
import { addOrder, daySaid, type Order, ordersOf, stateOf, today } from "../../state/orders";
import { Button, Entries, List, Trouble, Typed } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import type { Shown } from "./FitUp";
import { OrderEdited } from "./OrderEdited";
import { PaceOfShop } from "./PaceOfShop";

type Plan = Schemas["Plan"];

export function Waiting({ document, truck }: Shown) {
  const record = recordOf(truck, document);
  const orders = ordersOf(truck, document);
  const now = today();
  const key = JSON.stringify([record.gates, record.orders, record.pace, now]);
  const asked = useAsked<Plan>(key, (signal) => server.plan({ record, today: now }, signal), 60);
  const plan = asked.data;
  return (
    <section aria-label="Waiting list and plan" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!plan && asked.state === "asking" && <p role="status">Laying out the days…</p>}
      {plan && <Doable plan={plan} />}
      <h2>What is waited for</h2>
      <Orders {...{ document, orders, now }} />
      <Another document={document} />
      {plan && <Cost plan={plan} orders={orders} />}
      {plan && <Days plan={plan} />}
      <PaceOfShop {...{ document, truck }} />
    </section>
  );
}

/** What can be done with what is here, and what the next delivery lets go on. */
function Doable({ plan }: { plan: Plan }) {
  const { next, now, steps } = plan;
  const held = steps.find(({ waits_for }) => waits_for.length > 0);
  return (
    <>
      <p>
        {steps.length === 0 && "Every gate is passed."}
        {steps.length > 0 && now.length > 0 && `Can be done now: ${listed(now)}.`}
        {steps.length > 0 && now.length === 0 && "Nothing can be done now."}{" "}
        {held && `${held.name} waits for: ${listed(held.waits_for)}.`}
      </p>
      {next && (
        <p>
          {`Next to come: ${listed(next.what)}, ${next.late ? "late since" : "due"} ${daySaid(next.due)}. `}
          {next.unlocks.length > 0
            ? `It lets these go on: ${listed(next.unlocks)}.`
            : "No further step can go on with it alone."}
        </p>
      )}
    </>
  );
}

const listed = (names: readonly string[]): string => names.join(", ");

interface OfOrders {
  document: Shown["document"];
  orders: readonly Order[];
  now: string;
}

function Orders({ document, orders, now }: OfOrders) {
  const [open, setOpen] = useState<string | null>(null);
  if (orders.length === 0)
    return <p className="quiet">Nothing is. Cut sheet, To the shop, puts what it lists here.</p>;
  return (
    <List aria-label="What is waited for">
      {orders.map((order) => (
        <OpeningRow
          key={order.id}
          of="order"
          id={order.id}
          mark={order.here ? "✓" : "○"}
          name={`${order.count > 1 ? `${order.count} × ` : ""}${order.what}`}
          worth={stateOf(order, now)}
          open={open === order.id}
          onPress={() => setOpen(open === order.id ? null : order.id)}
        >
          <OrderEdited {...{ document, order }} />
        </OpeningRow>
      ))}
    </List>
  );
}

function Another({ document }: Pick<Shown, "document">) {
  const [what, setWhat] = useDraft("waited for", "");
  const [why, setWhy] = useState<string | null>(null);
  const put = async () => {
    const words = what.trim();
    setWhy(words === "" ? "Say what is waited for." : null);
    if (words !== "" && (await addOrder(document, { what: words }))) setWhat("");
  };
  return (
    <EditorBox>
      <Entries
        aria-label="Wait for something more"
        onSubmit={(event) => {
          event.preventDefault();
          void put();
        }}
      >
        <Typed words="What is waited for" value={what} onChange={setWhat} />
        <Button type="submit">Put it on the list</Button>
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  );
}

function Cost({ plan, orders }: { plan: Plan; orders: readonly Order[] }) {
  if (orders.length === plan.unpriced) return null;
  const rest = plan.unpriced > 0 ? `, and ${plan.unpriced} without a price` : "";
  return <p className="quiet">{`Together ${plan.price.toFixed(2)}${rest}.`}</p>;
}

/** The gates that are open, by days. */
function Days({ plan }: { plan: Plan }) {
  if (plan.steps.length === 0) return null;
  const guessed = plan.steps.some((one) => one.guessed);
  return (
    <>
      <FigureSection
        title="By days"
        head={["", "Hours", "From", "To"]}
        rows={plan.steps.map((one) => [
          one.name,
          `${one.hours}${one.guessed ? " guessed" : ""}`,
          one.starts ? daySaid(one.starts) : "not known",
          one.ends ? daySaid(one.ends) : "",
        ])}
      />
      <p className="quiet">
        {guessed && "Hours that nobody has said are guessed. "}
        {plan.undated.length > 0 && `No day is said for: ${listed(plan.undated)}. `}
        One gate after another, each once what it waits for is here; what is late is taken to come today. The
        fit-up sheet has it for the wall.
      </p>
    </>
  );
}
