/**
 * The one way in which anything is changed on the server: every change is held on this device first, under a number of
 * its own, and let go of only when the server has answered for it. One tab sends for all; what waits survives reloads,
 * and goes on by itself when the server is back.
 */

import { create } from "zustand";

import { NO_SERVER, reasonOf } from "../api/client";
import { stepBetween, stepped } from "../document/steps";
import { bestKeep, type Changes, type Keep, keepHere, type Operation } from "./keep";
import { overlaps } from "./steps";
import { writtenOut } from "./written";

export type { Operation } from "./keep";

type Truck = Parameters<typeof writtenOut>[0];

export interface Outcome {
  data?: unknown;
  error?: unknown;
  status: number;
}

type Given = Pick<Operation, "queue" | "words" | "method" | "url"> &
  Partial<Pick<Operation, "kind" | "base" | "body" | "from" | "mark" | "unchecked">>;
type Heard =
  | { what: "answered"; operation: Operation; outcome: Outcome }
  | { what: "waiting"; operation: Operation; why: string }
  | { what: "changed" };

interface Waiting {
  /** All that is held here, of every tab, in its order. */
  waiting: Operation[];
  /** Why it waits; null while it is on its way. */
  why: string | null;
  /** What waits outlasts the page. */
  lasting: boolean;
}

export const useOutbox = create<Waiting>()(() => ({ waiting: [], why: null, lasting: true }));

const RETRY_MS = 1500;
const BUSY = 500;
const REMEMBERED = 4;
const SENDER = "oak-lever-sender";
const tabLock = (tab: string) => `oak-lever-tab-${tab}`;

const locks = () =>
  typeof navigator === "undefined" ? undefined : (navigator.locks as LockManager | undefined);
const channel = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("oak-lever-outbox");
(channel as unknown as { unref?: () => void } | null)?.unref?.();

let keeping: Promise<Keep> | undefined;
let tab = "";
let named: Promise<string> | undefined;

const kept = () =>
  (keeping ??= bestKeep().then(({ keep, lasting }) => {
    useOutbox.setState({ lasting });
    return keep;
  }));

/** This tab's own name: the same after a reload, and never that of another tab that is open. */
export const ownTab = () =>
  (named ??= (async () => {
    const before = sessionStorage.getItem("oak-lever.tab");
    for (const name of [before, crypto.randomUUID()]) {
      if (name !== null && (await held(name))) {
        sessionStorage.setItem("oak-lever.tab", name);
        return (tab = name);
      }
    }
    return (tab = crypto.randomUUID());
  })());

/** Take a tab's name for as long as the page is open; false where another tab has it. */
function held(name: string): Promise<boolean> {
  const manager = locks();
  if (!manager) return Promise.resolve(true);
  return new Promise((resolve) => {
    void manager.request(tabLock(name), { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock ? new Promise(() => undefined) : undefined;
    });
  });
}

// who hears of what

type Listener = (heard: Exclude<Heard, { what: "changed" }>, mine: boolean) => void;
const listeners = new Set<Listener>();

/** Hear of each operation that was answered or has to wait; `mine`: it was this tab's. */
export function onOutbox(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function hear(heard: Heard) {
  if (heard.what === "waiting") useOutbox.setState({ why: heard.why });
  if (heard.what === "answered") useOutbox.setState({ why: null });
  if (heard.what !== "changed") listeners.forEach((listener) => listener(heard, heard.operation.tab === tab));
}

function tell(heard: Heard) {
  channel?.postMessage(heard);
  hear(heard);
}

channel?.addEventListener("message", ({ data }: MessageEvent<Heard>) => {
  hear(data);
  void look();
  if (data.what === "changed") wake();
});

/** Change what is kept; where the database takes nothing more, what is held from now on lasts as long as the page. */
async function changeKept<T>(work: (all: Operation[]) => Changes<T>): Promise<T> {
  try {
    return await (await kept()).change(work);
  } catch {
    const here = keepHere();
    keeping = Promise.resolve(here);
    useOutbox.setState({ lasting: false });
    if (!sending) void sendForEver(); // no other tab sees what is held here
    return here.change(work);
  }
}

/** What waits, as it is now. */
export async function look(): Promise<Operation[]> {
  const waiting = (await (await kept()).read()).filter((one) => one.done === null);
  useOutbox.setState({ waiting });
  return waiting;
}

// putting in, taking out

export const isMine = (one: Operation) => one.tab === tab;

/** What this tab holds of a queue. */
export const heldIn = (queue: string) => mineIn(useOutbox.getState().waiting, queue);

const mineIn = (all: Operation[], queue: string) =>
  all.filter((one) => one.queue === queue && one.tab === tab && one.done === null);

/** What stands now where this tab made something: its own edits may have been stored without its having heard. */
function standsAt(all: Operation[], { queue, kind, base = null }: Given): number | null {
  if (kind !== "design") return base;
  return all
    .filter((one) => one.queue === queue && one.tab === tab && one.done !== null)
    .reduce((at, one) => (one.base === at ? one.done : at), base);
}

/**
 * Hold an operation and have it sent: its number. `instead`: in place of this tab's last one of the queue, if that was
 * not sent yet; or of all of them, which somebody has decided about.
 */
export async function put(given: Given, instead?: "last" | "all"): Promise<string> {
  await ownTab();
  const id = await changeKept((all) => {
    const mine = mineIn(all, given.queue);
    const last = instead === "last" ? mine.at(-1) : undefined;
    const alike = last && last.kind === given.kind && !last.unchecked && !given.unchecked;
    const replaced = alike && !last.tried && !last.refused ? last : null;
    const drop = instead === "all" ? mine.map((one) => one.order) : [];
    const made: Operation = {
      kind: "plain", body: null, ...given,
      ...(replaced ? { from: replaced.from, base: replaced.base } : { base: standsAt(all, given) }),
      order: replaced?.order ?? (all.at(-1)?.order ?? 0) + 1,
      id: replaced?.id ?? crypto.randomUUID(), at: replaced?.at ?? Date.now(), tab, tried: false, refused: null, done: null,
    }; // prettier-ignore
    return { put: [made], drop, result: made.id };
  });
  await changed();
  return id;
}

/** Let go of this tab’s operations of a queue, or of one by its number. */
export async function drop(which: { queue: string } | { id: string }): Promise<void> {
  await (
    await kept()
  ).change((all) => {
    const gone = "id" in which ? all.filter((one) => one.id === which.id) : mineIn(all, which.queue);
    return { drop: gone.map((one) => one.order), result: null };
  });
  await changed();
}

/** This tab's operations of a queue, those too of tabs that are closed: they are this one's from now on. */
export async function takeUp(queue: string): Promise<Operation[]> {
  await ownTab();
  const open = await openTabs();
  const mine = await (
    await kept()
  ).change((all) => {
    const left = all.filter((one) => one.queue === queue && one.tab !== tab && !open.has(one.tab));
    const put = left.map((one) => ({ ...one, tab }));
    const now = all.map((one) => put.find((own) => own.order === one.order) ?? one);
    return { put, result: mineIn(now, queue) };
  });
  if (mine.length > 0) await changed();
  return mine;
}

async function openTabs(): Promise<Set<string>> {
  const { held: now = [] } = (await locks()?.query()) ?? {};
  return new Set(now.map((lock) => (lock.name ?? "").replace(tabLock(""), "")));
}

async function changed() {
  await look();
  channel?.postMessage({ what: "changed" } satisfies Heard);
  wake();
}

const asked = new Set<string>();
/** Somebody on this page waits for its answer, and will hear of it. */
export const isAsked = (one: Operation) => asked.has(one.id);

const isBefore = (one: Operation, { queue }: Given) => isMine(one) && one.queue === queue;

/** Hold an operation; what the server says of it, or "held" once it is clear that it has to wait. */
export async function ask(given: Given): Promise<Outcome | "held"> {
  let id: string | null = null;
  const early: Parameters<Listener>[0][] = [];
  let hears: (heard: Parameters<Listener>[0]) => void = (heard) => void early.push(heard);
  const stop = onOutbox((heard) => hears(heard));
  id = await put(given);
  asked.add(id);
  const outcome = await new Promise<Outcome | "held">((resolve) => {
    hears = (heard) => {
      if (heard.operation.id === id && heard.what === "answered") resolve(heard.outcome);
      // what is before it in its queue waits; or nobody answers at all
      else if (heard.what === "waiting" && (isBefore(heard.operation, given) || heard.why === NO_SERVER))
        resolve("held");
    };
    early.forEach(hears);
    if (useOutbox.getState().why === NO_SERVER) resolve("held");
  });
  stop();
  asked.delete(id);
  if (outcome !== "held" && outcome.error !== undefined) await drop({ id }); // whoever asked hears of it here and now
  return outcome;
}

// sending

let awake: (() => void) | null = null;
let soon: ReturnType<typeof setTimeout> | undefined;
const notBefore = new Map<string, number>();
const laneOf = (one: Operation) => `${one.tab} ${one.queue}`;

function wake() {
  void begin();
  awake?.();
}

let begun = false;
let sending = false;
/** One tab sends for all: this one, when no other does; or each for itself, where they share nothing. */
async function begin() {
  if (begun) return;
  begun = true;
  await ownTab();
  await kept();
  const manager = locks();
  if (manager && useOutbox.getState().lasting) void manager.request(SENDER, sendForEver);
  else void sendForEver();
}

async function sendForEver() {
  sending = true;
  for (;;) {
    const slept = new Promise<void>((resolve) => (awake = resolve));
    const next = firstToSend(await look());
    if (next) await attempt(next);
    else await slept;
  }
}

function firstToSend(all: Operation[]): Operation | undefined {
  const [waits, undecided] = [new Set<string>(), new Set<string>()];
  let earliest = Infinity;
  for (const one of all) {
    const lane = laneOf(one);
    const from = notBefore.get(lane) ?? 0;
    // an edit made on top of a refused one waits with it; what brings its design back does not
    if (isLetGo(one)) continue;
    if (one.refused) undecided.add(lane);
    else if (!waits.has(lane) && (one.kind === "plain" || !undecided.has(lane))) {
      if (from <= Date.now()) return one;
      earliest = Math.min(earliest, from);
      waits.add(lane);
    }
  }
  clearTimeout(soon);
  if (earliest < Infinity) soon = setTimeout(() => awake?.(), Math.max(earliest - Date.now(), 1));
  return undefined;
}

async function attempt({ order }: Operation) {
  const keep = await kept();
  const one = await keep.change((all) => {
    const found = all.find((other) => other.order === order);
    const tried = found?.done === null ? { ...found, tried: true } : undefined;
    return { put: tried ? [tried] : [], result: tried };
  });
  if (!one) return;
  let outcome: Outcome;
  try {
    outcome = await sent(one);
  } catch {
    later(one, NO_SERVER);
    return;
  }
  if (outcome.status >= BUSY) later(one, reasonOf(outcome.error));
  else if (outcome.error === undefined) await stored(keep, one, outcome);
  else if (!(await rebased(keep, one, outcome))) await refused(keep, one, outcome);
}

async function sent({ id, method, url, base, body }: Operation): Promise<Outcome> {
  const whole = body && (base === null ? body : { ...body, base });
  const response = await fetch(body === null && base !== null ? `${url}?base=${base}` : url, {
    method,
    headers: {
      ...(whole ? { "Content-Type": "application/json" } : {}),
      "X-Oak-Lever-Operation": id,
    },
    body: whole && JSON.stringify(whole),
  });
  const said: unknown = response.status === 204 ? null : await response.json().catch(() => null);
  return response.ok ? { data: said, status: response.status } : { error: said, status: response.status };
}

function later(one: Operation, why: string) {
  notBefore.set(laneOf(one), Date.now() + RETRY_MS);
  tell({ what: "waiting", operation: one, why });
}

/** An operation as it is held now: another tab may have taken it up while it was on its way. */
const asHeld = (all: Operation[], one: Operation): Operation => ({
  ...one,
  tab: all.find((other) => other.order === one.order)?.tab ?? one.tab,
});

/** Stored: what its tab made after it stands on what it became. */
async function stored(keep: Keep, sent: Operation, outcome: Outcome) {
  const made = outcome.data as { number?: number; document?: unknown } | null;
  const one = await keep.change((all) => {
    const one = asHeld(all, sent);
    const number = one.kind === "design" ? (made?.number ?? null) : null;
    const before = all.filter((other) => laneOf(other) === laneOf(one) && other.done !== null);
    const done = number === null ? [] : [{ ...one, done: number, body: null, from: undefined }];
    return {
      drop: [...before.slice(0, -REMEMBERED), ...(number === null ? [one] : [])].map((other) => other.order),
      put: [...done, ...mineAfter(all, one).map((next) => standing(next, made))],
      result: one,
    };
  });
  await look();
  tell({ what: "answered", operation: one, outcome });
}

const mineAfter = (all: Operation[], one: Operation) =>
  all.filter(
    (other) =>
      laneOf(other) === laneOf(one) && other.order > one.order && !other.refused && other.done === null,
  );

function standing(next: Operation, made: { number?: number; document?: unknown } | null): Operation {
  if (made?.number === undefined) return next;
  const base = next.base === null ? null : made.number;
  if (next.kind !== "truck") return { ...next, base };
  return onto({ ...next, base }, writtenOut(made.document as Truck));
}

/** A change of the truck put on another state of it. */
function onto(one: Operation, document: unknown): Operation {
  const step = stepBetween(one.from, one.body!["document"]);
  return { ...one, from: document, body: { document: stepped(document, step, "again") } };
}

/** A change of other figures than those that somebody changed meanwhile goes on top of theirs. */
async function rebased(keep: Keep, one: Operation, { status, error }: Outcome): Promise<boolean> {
  if (one.kind !== "truck" || status !== 409) return false;
  const { newest } = error as { newest: { number: number; document: Truck } };
  const document = writtenOut(newest.document);
  const theirs = stepBetween(one.from, document);
  if (overlaps(stepBetween(one.from, one.body!["document"]), theirs)) return false;
  try {
    const next = onto({ ...one, base: newest.number }, document);
    await keep.change((all) => ({ put: [asHeld(all, next)], result: null }));
    return true;
  } catch {
    return false; // what it changed is no more
  }
}

const DECIDED_BY_HAND = [404, 409, 410];

/** It could not be checked when it was made, and the server does not take it: nobody has to decide, only to hear of it. */
export const isLetGo = ({ unchecked, refused }: Operation): boolean =>
  unchecked === true && refused !== null && !DECIDED_BY_HAND.includes(refused.status);

/** A document that was made on top of an operation's, as it is without that. */
export function without<T>(document: T, { from, body }: Operation): T {
  try {
    return stepped(from as T, stepBetween(body!["document"], document), "again");
  } catch {
    return document; // it changes what came with that
  }
}

async function refused(keep: Keep, sent: Operation, outcome: Outcome) {
  const { status, error } = outcome;
  const one = await keep.change((all) => {
    const one = { ...asHeld(all, sent), refused: { status, error } };
    const after = isLetGo(one) ? mineAfter(all, one).filter((next) => next.kind === one.kind) : [];
    const cleared = after.map((next) => ({
      ...next,
      body: { ...next.body, document: without(next.body!["document"], one) },
      ...(next.unchecked ? { from: without(next.from, one) } : {}),
    }));
    return { put: [one, ...cleared], result: one };
  });
  await look();
  tell({ what: "answered", operation: one, outcome });
}

/** Go on with what waits from before: when the page opens. */
export async function startOutbox(): Promise<void> {
  await look();
  wake();
}

/** For tests: as if this page had just been opened. */
export function forgetOutbox(keep?: Keep): void {
  keeping = keep && Promise.resolve(keep);
  named = undefined;
  begun = sending = false;
  awake = null;
  clearTimeout(soon);
  notBefore.clear();
  useOutbox.setState({ waiting: [], why: null, lasting: true });
}
