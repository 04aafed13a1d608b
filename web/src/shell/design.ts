/**
 * The open design: what is on screen, what is stored, and the way from one to the other.
 *
 * A drag previews; letting go edits. Every edit is held on this device first, then sent; it is let go of only when
 * the server has said that it is stored. So nothing is lost when the server is gone or the tab is closed.
 */

import { create } from "zustand";

import { NO_SERVER, type Revision, reasonOf, server } from "../api/client";
import type { Document } from "../document/document";
import { takeTyped } from "./said";
import { keepSteps, readSteps, type Step, stepBetween, stepped } from "../document/steps";

export type Sync =
  | { state: "stored" }
  | { state: "storing" }
  | { state: "held"; why: string }
  | { state: "refused"; why: string }
  | { state: "gone"; why: string }
  | { state: "conflict"; newest: Revision };

interface Held {
  base: number;
  /** The truck revision that the document stands on. */
  truck?: number;
  document: Document;
  /** What it was made from: what differs is this hand's own. */
  from?: Document;
}

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
const heldKey = (id: number) => `oak-lever.held.${id}`;

function readHeld(id: number): Held | null {
  try {
    const text = localStorage.getItem(heldKey(id));
    return text === null ? null : (JSON.parse(text) as Held);
  } catch {
    return null;
  }
}

/** The newest document with what this hand changed put on it; all that it did not touch stays as the other left it. */
function onTop(newest: Document, from: Document, mine: Document): Document {
  try {
    return stepped(newest, stepBetween(from, mine), "again");
  } catch {
    return mine; // the other took away what this hand changed: it comes back whole
  }
}

export const useDesign = create<OpenDesign>()((set, get) => {
  let sending = false;
  let retry: ReturnType<typeof setTimeout> | undefined;
  let slow: ReturnType<typeof setTimeout> | undefined;

  const hold = (document: Document) => {
    const { stored } = get();
    if (!stored) return;
    set({ pending: document });
    try {
      localStorage.setItem(
        heldKey(stored.design),
        JSON.stringify({ base: stored.number, truck: stored.truck, document, from: stored.document }),
      );
    } catch {
      // a full or forbidden local storage only costs the second net: the edit still stands on screen
    }
    void send();
  };

  const release = (id: number) => {
    set({ pending: null });
    localStorage.removeItem(heldKey(id));
  };

  const again = (why: string) => {
    set({ sync: { state: "held", why } });
    clearTimeout(retry);
    retry = setTimeout(() => void send(), RETRY_MS);
  };

  /** Store the newest pending edit; one request at a time, so that revisions stay in order. */
  async function send(): Promise<void> {
    const { pending, stored, sync } = get();
    if (sending || !pending || !stored || sync.state === "conflict" || sync.state === "gone") return;
    sending = true;
    set({ sync: sync.state === "held" ? sync : { state: "storing" } });
    try {
      const { data, error, status } = await server.saveRevision(stored.design, {
        base: stored.number,
        truck: stored.truck,
        document: pending,
      });
      settle(stored.design, pending, data, error, status);
    } catch {
      again("The server does not answer.");
    } finally {
      sending = false;
    }
    if (get().pending && get().sync.state !== "held") void send();
  }

  function settle(id: number, sent: Document, data: Revision | undefined, error: unknown, status: number) {
    if (get().stored?.design !== id) return;
    if (data) {
      const { truck } = get().stored!; // this page goes on standing on its own truck until it has fetched the newer one
      set({ newestTruck: data.truck });
      set({
        stored: { ...data, truck, document: sent },
        sync: { state: get().pending === sent ? "stored" : "storing" },
      });
      if (get().pending === sent) release(id);
      else if (get().pending) hold(get().pending!);
    } else if (status === 409) {
      set({ sync: { state: "conflict", newest: (error as { newest: Revision }).newest } });
    } else if (status === 422 || status === 413) {
      release(id);
      set({ document: get().stored!.document, sync: { state: "refused", why: reasonOf(error) } });
    } else if (status === 410) {
      set({ sync: { state: "gone", why: reasonOf(error) } });
    } else {
      again("The server could not store the edit.");
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

  return {
    stored: null,
    newestTruck: 0,
    document: null,
    draft: null,
    pending: null,
    sync: { state: "stored" },
    past: [],
    future: [],
    trouble: null,
    drawn: null,

    open: async (id) => {
      takeTyped();
      clearTimeout(retry);
      set({
        stored: null,
        document: null,
        draft: null,
        pending: null,
        past: [],
        future: [],
        trouble: null,
        drawn: null,
        sync: { state: "stored" },
      });
      try {
        const { data, error, status } = await server.design(id);
        if (!data) {
          set({
            trouble: reasonOf(error),
            sync: status === 410 ? { state: "gone", why: reasonOf(error) } : { state: "stored" },
          });
          return;
        }
        show(data);
        set(readSteps(id));
        const held = readHeld(id);
        if (held && JSON.stringify(held.document) === JSON.stringify(data.document)) release(id);
        else if (held) {
          set({
            document: held.document,
            pending: held.document,
            stored: {
              ...data,
              number: held.base,
              truck: held.truck ?? data.truck,
              document: held.from ?? data.document,
            },
          });
          void send();
        }
      } catch {
        set({ trouble: NO_SERVER });
      }
    },

    preview: (draft) => {
      set({ draft });
      slow ??= setTimeout(() => {
        slow = undefined;
        const { draft: latest } = get();
        if (latest) set({ document: latest });
      }, PATIENCE_MS);
    },

    draw: (document) => {
      clearTimeout(slow);
      slow = undefined;
      if (get().draft) set({ document });
    },

    edit: (document, from) => {
      const before = from ?? get().document;
      if (!before || JSON.stringify(before) === JSON.stringify(document)) {
        set({ document, draft: null });
        return;
      }
      set({ document, draft: null });
      remember([...get().past, stepBetween(before, document)], []);
      if (get().sync.state === "refused") set({ sync: { state: "stored" } });
      hold(document);
    },

    undo: () => {
      takeTyped();
      step("past", "future");
    },
    redo: () => {
      takeTyped();
      step("future", "past");
    },

    keepMine: () => {
      const { sync, document } = get();
      if (sync.state !== "conflict" || !document) return;
      const { truck, document: from } = get().stored!;
      const both = onTop(sync.newest.document, from, document);
      set({
        document: both,
        stored: { ...sync.newest, truck },
        newestTruck: sync.newest.truck,
        sync: { state: "storing" },
      });
      hold(both);
    },

    takeTheirs: () => {
      const { sync, document } = get();
      if (sync.state !== "conflict" || !document) return;
      release(sync.newest.design);
      remember([...get().past, stepBetween(document, sync.newest.document)], []);
      show(sync.newest);
    },

    keepBoth: async () => {
      const { sync, document } = get();
      if (sync.state !== "conflict" || !document) return;
      const mine = { ...document, name: `${document.name}, other edit` };
      const { data } = await server
        .importDesign(sync.newest.build, { text: JSON.stringify(mine), take: [] })
        .catch(() => ({ data: undefined }));
      if (!data) return;
      release(sync.newest.design);
      show(sync.newest);
    },

    catchUp: async () => {
      const { stored, pending, draft, sync } = get();
      if (!stored || pending || draft || sync.state !== "stored") return;
      const { data } = await server.design(stored.design).catch(() => ({ data: undefined }));
      const now = get();
      if (!data || now.stored !== stored || now.pending || now.draft || data.number <= stored.number) return;
      remember([...now.past, stepBetween(now.document, data.document)], []);
      show(data);
    },

    goBack: async () => {
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
    },

    bringBack: async () => {
      const { sync } = get();
      const id = Number(location.pathname.split("/")[2]);
      if (sync.state !== "gone") return;
      const { data } = await server.restoreDesign(id).catch(() => ({ data: undefined }));
      if (!data) return;
      const { pending, stored } = get();
      show(data);
      if (pending && stored) {
        set({ document: pending, stored: { ...data, truck: stored.truck } });
        hold(pending);
      }
    },
  };
});
