/** What is waited for: kept with the fit-up of its axle, beside the truck. */

import type { Schemas } from "../api/client";
import type { Document } from "../document/document";
import { freeId } from "../document/ids";
import { type Gate, gates, recordOf, withRecord } from "./fitUp";
import { type TruckDocument, useTruck } from "./truck";

export type Order = Schemas["Order"];
export type Pace = Schemas["Pace"];
/** What of an order is put otherwise. */
export type Change = { [Key in keyof Order]?: Order[Key] };

export const ordersOf = (truck: TruckDocument, document: Document): readonly Order[] =>
  recordOf(truck, document).orders;

/** Today here, as a day is written in files: 2026-03-09. */
export function today(now = new Date()): string {
  const two = (value: number) => String(value).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}

/** A day as it is said: "Mon 9 Mar 2026"; what is none as it is written. */
export function daySaid(day: string): string {
  const at = new Date(`${day}T12:00:00`);
  if (Number.isNaN(at.getTime())) return day;
  const weekday = at.toLocaleDateString("en-US", { weekday: "short" });
  const month = at.toLocaleDateString("en-US", { month: "short" });
  return `${weekday} ${at.getDate()} ${month} ${at.getFullYear()}`;
}

/** Where an order stands, in two or three words. */
export function stateOf(order: Order, now: string): string {
  if (order.here) return "here";
  if (!order.due) return order.ordered ? "no day said" : "not ordered";
  return order.due < now ? `late: ${daySaid(order.due)}` : daySaid(order.due);
}

const EMPTY: Omit<Order, "id" | "what"> = {
  count: 1, of: "", price: null, ordered: null, due: null, here: false, gate: null, item: "", job: "",
}; // prettier-ignore

/** Store the orders anew, by what is done to those that stand now. */
function store(document: Document, change: (orders: readonly Order[]) => Order[]): Promise<boolean> {
  const truck = useTruck.getState().truck?.document;
  if (!truck) return Promise.resolve(false);
  const record = recordOf(truck, document);
  const next = { ...record, orders: change(record.orders) };
  return useTruck.getState().edit(withRecord(truck, document, next));
}

export type Wanted = Pick<Order, "what"> &
  Partial<Pick<Order, "count" | "of" | "item" | "job" | "gate" | Known>>;
type Known = "price" | "ordered" | "due";

export const addOrder = (document: Document, order: Wanted): Promise<boolean> =>
  store(document, (orders) => [...orders, { ...EMPTY, ...order, id: freeId(orders, "o") } as Order]);

/** The number under which a job stands on the list, put there now if it does not yet; null where that can't be stored. */
export async function listedJob(
  document: Document,
  order: Wanted & Pick<Order, "job">,
): Promise<string | null> {
  const standing = () => {
    const truck = useTruck.getState().truck?.document;
    return truck && ordersOf(truck, document).findLast(({ job, ordered }) => job === order.job && !ordered);
  };
  if (!standing()) await addOrder(document, order);
  return standing()?.id ?? null;
}

export const changeOrder = (document: Document, id: string, changed: Change): Promise<boolean> =>
  store(document, (orders) => orders.map((one) => (one.id === id ? { ...one, ...changed } : one)));

export const dropOrder = (document: Document, id: string): Promise<boolean> =>
  store(document, (orders) => orders.filter((one) => one.id !== id));

export const NO_GATE = "none";
/** The gates that may wait for something, and none. */
export const waiting = (): [Gate | typeof NO_GATE, string][] => [
  [NO_GATE, "No step waits for it"],
  ...gates().map(({ id, name }): [Gate, string] => [id, name]),
];

const A_DAY = /^\d{4}-\d{2}-\d{2}$/;
/** A day as it is typed: null where nothing is, and in words what is wrong with what is no day. */
export function dayTyped(text: string): string | null | { why: string } {
  const day = text.trim();
  if (day === "") return null;
  const at = new Date(`${day}T12:00:00Z`);
  return A_DAY.test(day) && !Number.isNaN(at.getTime()) && at.toISOString().startsWith(day)
    ? day
    : { why: "A day is year, month, day: 2026-03-09." };
}

/** A price as it is typed: null where nothing is. */
export function priceTyped(text: string): number | null | { why: string } {
  const plain = text.trim().replace(/,(?=\d{3}(\D|$))/g, "");
  if (plain === "") return null;
  const price = Number(plain);
  return Number.isFinite(price) && price >= 0 && price <= 1e7
    ? price
    : { why: "A price is a number, nothing or more." };
}
