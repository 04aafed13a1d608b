/** Where operations wait on this device: the browser's database; or, where that is forbidden, as long as the page lasts. */

import { type DBSchema, type IDBPDatabase, openDB } from "idb";

/** Something that is to be changed on the server, and what is known of its way there. */
export interface Operation {
  /** Its place in the order in which they were made, on this device. */
  order: number;
  /** Its own number: the server does it once, however often it comes. */
  id: string;
  tab: string;
  /** What it changes: those of one queue and one tab go in their order. */
  queue: string;
  kind: "design" | "truck" | "plain";
  /** When it was made, ms since 1970. */
  at: number;
  /** What it is, in words. */
  words: string;
  method: "POST" | "PUT" | "DELETE";
  url: string;
  /** What it was made against: goes with the body, or with the address where there is none. */
  base: number | null;
  body: Record<string, unknown> | null;
  /** The document that it was made from, and which of the edits of its tab it is. */
  from?: unknown;
  mark?: number;
  /** Made while nobody could check it: where the server refuses it, what was made after it goes on without it. */
  unchecked?: boolean;
  /** It has been sent: from then on it stays as it is. */
  tried: boolean;
  /** The server's answer that somebody has to decide about. */
  refused: { status: number; error: unknown } | null;
  /** It is stored, as this number: kept a while, for what this tab makes before it has heard of that. */
  done: number | null;
}

export interface Changes<T> {
  put?: Operation[];
  drop?: number[];
  result: T;
}

export interface Keep {
  read: () => Promise<Operation[]>;
  /** Look at all, in their order, and change some, with nobody between. */
  change: <T>(work: (all: Operation[]) => Changes<T>) => Promise<T>;
}

interface Schema extends DBSchema {
  operations: { key: number; value: Operation };
}

/** For as long as the page lasts. */
export function keepHere(): Keep {
  let all: Operation[] = [];
  return {
    read: () => Promise.resolve(all),
    change: (work) => {
      const { put = [], drop = [], result } = work(all);
      const changed = new Set([...drop, ...put.map((one) => one.order)]);
      all = [...all.filter((one) => !changed.has(one.order)), ...put].sort((a, b) => a.order - b.order);
      return Promise.resolve(result);
    },
  };
}

/** In the browser's database. */
export function keepInDatabase(): Keep {
  let opened: Promise<IDBPDatabase<Schema>> | undefined;
  const database = () =>
    (opened ??= openDB<Schema>("oak-lever", 1, {
      upgrade: (made) => void made.createObjectStore("operations", { keyPath: "order" }),
      terminated: () => (opened = undefined),
    }));
  return {
    read: async () => (await database()).getAll("operations"),
    change: async (work) => {
      const steps = (await database()).transaction("operations", "readwrite", { durability: "strict" });
      const { put = [], drop = [], result } = work(await steps.store.getAll());
      for (const order of drop) void steps.store.delete(order);
      for (const one of put) void steps.store.put(one);
      await steps.done;
      return result;
    },
  };
}

/** The database, unless it can't be had: then what waits is lost with the page, and the page says so. */
export async function bestKeep(): Promise<{ keep: Keep; lasting: boolean }> {
  if (typeof indexedDB === "undefined") return { keep: keepHere(), lasting: false };
  const keep = keepInDatabase();
  try {
    await keep.read();
    return { keep, lasting: true };
  } catch {
    return { keep: keepHere(), lasting: false };
  }
}
