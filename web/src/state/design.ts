/**
 * The open design: what is on screen, what is stored, and the way from one to the other.
 *
 * A drag previews; letting go edits. Every edit goes into the outbox, which holds it on this device until the server
 * has said that it is stored. So nothing is lost when the server is gone or the tab is closed.
 */

import { create } from "zustand";

import { addressOf, NO_SERVER, type Revision, reasonOf, server } from "../api/client";
import type { Document } from "../document/document";
import { making } from "./making";
import {
  drop,
  heldIn,
  isLetGo,
  onOutbox,
  type Operation,
  type Outcome,
  put,
  takeUp,
  without,
} from "./outbox";
import { takeTyped, useSaid } from "./said";
import { keepSteps, readSteps, type Step, stepBetween, stepped } from "../document/steps";

export type Sync =
  | { state: "stored" }
  | { state: "storing" }
  | { state: "held"; why: string }
  | { state: "refused"; why: string }
  | { state: "gone"; why: string }
  | { state: "conflict"; newest: Revision };

interface OpenDesign {
  /** What is stored, as it stands on the truck revision that this page has. */
  stored: Revision | null;
  /** The newest truck revision that the server spoke of. */
  newestTruck: number;
  document: Document | null;
  /** Where the hand is while it drags; becomes the document when its figures are there, or soon after without them. */
  draft: Document | null;
  pending: Document | null;
  sync: Sync;
  past: Step[];
  future: Step[];
  trouble: string | null;
  open: (id: number) => Promise<void>;
  preview: (document: Document) => void;
  draw: (document: Document) => void;
  edit: (document: Document, from?: Document) => void;
  /** The same while nobody can check it: it waits, and is let go of alone where it is refused. */
  editUnchecked: (document: Document) => void;
  undo: () => void;
  redo: () => void;
  keepMine: () => void;
  takeTheirs: () => void;
  keepBoth: () => Promise<void>;
  bringBack: () => Promise<void>;
  /** The screen shows this document: it could be drawn. */
  drawn: Document | null;
  /** Store it as it was when it could last be drawn; or else a step, or a revision, before it. False: there is none. */
  goBack: () => Promise<boolean>;
  /** What another hand has stored meanwhile, where nothing of this one waits. */
  catchUp: () => Promise<void>;
}

const RETRY_MS = 1500;
/** How long a dragged mount waits for its figures before it is drawn without them. */
const PATIENCE_MS = 50;
const queueOf = (id: number) => `design ${id}`;

/** The newest document with what this hand changed put on it; all that it did not touch stays as the other left it. */
function onTop(newest: Document, from: Document, mine: Document): Document {
  try {
    return stepped(newest, stepBetween(from, mine), "again");
  } catch {
    return mine; // the other took away what this hand changed: it comes back whole
  }
}

/** As it is before a design is there. */
const nothing = () => ({
  stored: null, newestTruck: 0, document: null, draft: null, pending: null, sync: { state: "stored" as const },
  past: [], future: [], trouble: null, drawn: null,
}); // prettier-ignore

export const useDesign = create<OpenDesign>()(() => ({
  ...nothing(),
  open,
  preview,
  draw,
  edit,
  editUnchecked,
  undo,
  redo,
  keepMine,
  takeTheirs,
  keepBoth,
  catchUp,
  goBack,
  bringBack,
}));

const get = useDesign.getState;
const set = useDesign.setState;

let retry: ReturnType<typeof setTimeout> | undefined;
let slow: ReturnType<typeof setTimeout> | undefined;
/** Which edit of this page is the newest: once that one is stored, nothing waits. */
let newest = 0;
/** The design that was asked for last; and how often something of one was stored before it was there. */
let opening = 0;
let meanwhile = 0;

/** Hold an edit; `over`: in place of all that this page holds of the design, decided about by it; `unchecked`: made of
 * this document, while nobody could check it. */
const hold = (
  document: Document,
  { over = false, unchecked }: { over?: boolean; unchecked?: Document } = {},
) => {
  const { stored, sync } = get();
  if (!stored) return;
  set({ pending: document, sync: sync.state === "held" ? sync : { state: "storing" } });
  void put(
    {
      queue: queueOf(stored.design), kind: "design", method: "POST",
      url: addressOf("/api/designs/{design_id}/revisions", { design_id: stored.design }),
      words: `an edit of ${document.name}`, base: stored.number,
      body: { truck: stored.truck, document }, mark: ++newest,
      ...(unchecked ? { from: unchecked, unchecked: true } : { from: stored.document }),
    },
    over ? "all" : "last",
  ); // prettier-ignore
};

const release = (id: number) => {
  set({ pending: null });
  return drop({ queue: queueOf(id) });
};

/** What became of an edit of this page. */
function settle(id: number, operation: Operation, { data, error, status }: Outcome) {
  const { stored } = get();
  if (stored?.design !== id) return;
  if (error === undefined) {
    const said = data as Revision;
    if (!get().pending) {
      show(said); // of a page before this one: nothing of this page waits for it
      return;
    }
    const sent = operation.body!["document"] as Document;
    const last = operation.mark === newest;
    // this page goes on standing on its own truck until it has fetched the newer one
    set({
      newestTruck: said.truck,
      stored: { ...said, truck: stored.truck, document: sent },
      sync: { state: last ? "stored" : "storing" },
      ...(last ? { pending: null } : {}),
    });
  } else if (status === 409) {
    set({ sync: { state: "conflict", newest: (error as { newest: Revision }).newest } });
  } else if (status === 410 || status === 404) {
    set({ sync: { state: "gone", why: reasonOf(error) } });
  } else if (operation.unchecked) {
    sayLetGo(operation, error);
    goOnWithout(operation);
  } else {
    void release(id);
    set({ document: stored.document, sync: { state: "refused", why: reasonOf(error) } });
  }
}

/** What could not be checked when it was made, and is refused: it is said. */
function sayLetGo({ id, words }: Operation, error: unknown) {
  useSaid.getState().say(`Not stored: ${words}, made while the server was away. ${reasonOf(error)}`);
  void drop({ id });
}

/** All that was made after it stands. */
function goOnWithout(operation: Operation) {
  const { document } = get();
  const clean = document && without(document, operation);
  const waits = operation.mark !== newest;
  set({ document: clean, pending: waits ? clean : null, sync: { state: waits ? "storing" : "stored" } });
}

onOutbox((heard, mine) => {
  const { stored } = get();
  const { operation } = heard;
  if (!stored && operation.queue === queueOf(opening) && heard.what === "answered") meanwhile++;
  if (!stored || operation.queue !== queueOf(stored.design)) return;
  const edited = mine && operation.kind === "design"; // else a name, an alternative, or from the bin
  if (heard.what === "answered" && edited) settle(stored.design, operation, heard.outcome);
  else if (heard.what === "answered") void get().catchUp();
  else if (mine && get().pending) set({ sync: { state: "held", why: heard.why } });
});

/** A design as it is stored; asked for again where something of it was stored while it was on its way. */
async function fetched(id: number): ReturnType<typeof server.design> {
  const before = meanwhile;
  const answer = await server.design(id);
  return meanwhile === before ? answer : fetched(id);
}

/** What waits for a design from before, on this device: it is on screen again. */
async function takeUpHeld(id: number, data: Revision) {
  await fromOlderPage(data);
  await takeUp(queueOf(id));
  const all = heldIn(queueOf(id)); // read here and now: what is answered from now on is heard of
  for (const one of all.filter(isLetGo)) sayLetGo(one, one.refused?.error);
  const held = all.filter((one) => !isLetGo(one));
  const [first, last] = [held[0], held.at(-1)];
  if (!first || !last || get().stored?.design !== id) return;
  const document = last.body!["document"] as Document;
  newest = Math.max(newest, last.mark ?? 0);
  set({
    document,
    pending: document,
    sync: { state: "storing" },
    stored: {
      ...data,
      number: first.base ?? data.number,
      truck: Number(last.body!["truck"] ?? data.truck),
      document: (first.from as Document | undefined) ?? data.document,
    },
  });
  const decided = held.find((one) => one.refused);
  if (decided?.refused?.status === 409) set({ sync: { state: "conflict", newest: data } });
}

/** An edit that an older page of ours held in another place. */
async function fromOlderPage(data: Revision) {
  const key = `oak-lever.held.${data.design}`;
  try {
    const text = localStorage.getItem(key);
    if (text === null) return;
    const held = JSON.parse(text) as { base: number; truck?: number; document: Document; from?: Document };
    await put({
      queue: queueOf(data.design), kind: "design", method: "POST",
      url: addressOf("/api/designs/{design_id}/revisions", { design_id: data.design }),
      words: `an edit of ${held.document.name}`, base: held.base,
      body: { truck: held.truck ?? data.truck, document: held.document },
      from: held.from ?? data.document, mark: ++newest,
    }); // prettier-ignore
    localStorage.removeItem(key);
  } catch {
    // no such edit, or none that can be read
  }
}

const remember = (past: Step[], future: Step[]) => {
  const { stored } = get();
  set({ past, future });
  if (stored) keepSteps(stored.design, { past, future });
};

const step = (from: "past" | "future", to: "past" | "future") => {
  const { document, [from]: stack, [to]: other } = get();
  const taken = stack.at(-1);
  if (!document || !taken) return;
  const stacks = { [from]: stack.slice(0, -1), [to]: [...other, taken] } as {
    past: Step[];
    future: Step[];
  };
  try {
    const target = stepped(document, taken, from === "past" ? "back" : "again");
    set({ document: target });
    remember(stacks.past, stacks.future);
    hold(target);
  } catch {
    // someone else's edit took away what this step was about: it can't be taken any more
    remember(from === "past" ? stacks.past : [], from === "past" ? [] : stacks.future);
  }
};

const show = (revision: Revision) =>
  set({
    newestTruck: revision.truck,
    stored: revision,
    document: revision.document,
    trouble: null,
    sync: { state: "stored" },
  });

async function open(id: number) {
  takeTyped();
  clearTimeout(retry);
  opening = id;
  set(nothing());
  try {
    const { data, error, status } = await fetched(id);
    if (opening !== id) return; // another was opened meanwhile
    if (!data) {
      set({
        trouble: reasonOf(error),
        sync: status === 410 ? { state: "gone", why: reasonOf(error) } : { state: "stored" },
      });
      return;
    }
    show(data);
    set(readSteps(id));
    await takeUpHeld(id, data);
  } catch {
    if (opening !== id) return;
    set({ trouble: NO_SERVER });
    retry = setTimeout(() => void get().open(id), RETRY_MS);
  }
}

function preview(draft: Document) {
  set({ draft });
  slow ??= setTimeout(() => {
    slow = undefined;
    const { draft: latest } = get();
    if (latest) set({ document: latest });
  }, PATIENCE_MS);
}

function draw(document: Document) {
  clearTimeout(slow);
  slow = undefined;
  if (get().draft) set({ document });
}

function edit(document: Document, from?: Document) {
  const before = from ?? get().document;
  if (!before || JSON.stringify(before) === JSON.stringify(document)) {
    set({ document, draft: null });
    return;
  }
  set({ document, draft: null });
  remember([...get().past, stepBetween(before, document)], []);
  if (get().sync.state === "refused") set({ sync: { state: "stored" } });
  hold(document);
}

function editUnchecked(document: Document) {
  const { document: before, past } = get();
  if (!before) return;
  set({ document, draft: null });
  remember([...past, stepBetween(before, document)], []);
  hold(document, { unchecked: before });
}

function undo() {
  takeTyped();
  step("past", "future");
}

function redo() {
  takeTyped();
  step("future", "past");
}

function keepMine() {
  const { sync, document } = get();
  if (sync.state !== "conflict" || !document) return;
  const { truck, document: from } = get().stored!;
  const both = onTop(sync.newest.document, from, document);
  const stored = { ...sync.newest, truck };
  set({ document: both, stored, newestTruck: sync.newest.truck, sync: { state: "storing" } });
  hold(both, { over: true });
}

function takeTheirs() {
  const { sync, document } = get();
  if (sync.state !== "conflict" || !document) return;
  void release(sync.newest.design);
  remember([...get().past, stepBetween(document, sync.newest.document)], []);
  show(sync.newest);
}

async function keepBoth() {
  const { sync, document } = get();
  if (sync.state !== "conflict" || !document) return;
  const mine = { ...document, name: `${document.name}, other edit` };
  const { build, design } = sync.newest;
  const said = await making.importDesign(build, { text: JSON.stringify(mine), take: [] }, mine.name);
  if (said.data === undefined && said.status !== 0) return; // refused; held, it is as good as stored
  void release(design); // mine is stored, or held, as the other design
  show(sync.newest);
}

async function catchUp() {
  const { stored, pending, draft, sync } = get();
  if (!stored || pending || draft || sync.state !== "stored") return;
  const { data } = await server.design(stored.design).catch(() => ({ data: undefined }));
  const now = get();
  if (!data || now.stored !== stored || now.pending || now.draft || data.number <= stored.number) return;
  remember([...now.past, stepBetween(now.document, data.document)], []);
  show(data);
}

async function goBack() {
  const { document, drawn, past, stored, edit } = get();
  set({ draft: null });
  if (drawn && drawn !== document) edit(drawn);
  else if (past.length > 0) step("past", "future");
  else if (stored && stored.number > 1) {
    const { data } = await server
      .revision(stored.design, stored.number - 1)
      .catch(() => ({ data: undefined }));
    if (!data) return false;
    edit(data.document);
  } else return false;
  set({ drawn: null });
  return true;
}

async function bringBack() {
  const { sync } = get();
  const id = Number(location.pathname.split("/")[2]);
  if (sync.state !== "gone") return;
  const { data } = await making.restoreDesign(id, "the design");
  if (!data) return;
  const { pending, stored } = get();
  show(data);
  if (pending && stored) {
    set({ document: pending, stored: { ...data, truck: stored.truck } });
    hold(pending, { over: true });
  }
}
