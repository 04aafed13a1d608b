/** The shop's own catalog of joints and steels: for all builds on this device, and as an open file. */

import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { Document } from "../document/document";

type Entries<K extends "joints" | "materials"> = NonNullable<Document[K]>;

export interface Catalog {
  format: "oak-lever-catalog";
  version: 1;
  joints: Entries<"joints">;
  materials: Entries<"materials">;
}

export const useCatalog = create<{ shop: Catalog | null; keep: (shop: Catalog) => void }>()(
  persist((set) => ({ shop: null, keep: (shop) => set({ shop }) }), { name: "oak-lever catalog" }),
);

export const catalogOf = ({ joints, materials }: Document): Catalog => ({
  format: "oak-lever-catalog",
  version: 1,
  joints: joints ?? {},
  materials: materials ?? {},
});

const isTable = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** The catalog in a file's text, or what is wrong with it; what its entries say is read with the design. */
export function catalogIn(text: string): Catalog | string {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    return "This is no catalog: it is not JSON.";
  }
  if (!isTable(read) || read["format"] !== "oak-lever-catalog")
    return "This is no catalog of joints and steels.";
  if (read["version"] !== 1) return "This catalog is of a later version than this program reads.";
  const { joints = {}, materials = {} } = read;
  if (!isTable(joints) || !isTable(materials))
    return "Its joints and its materials must be tables of entries.";
  return { format: "oak-lever-catalog", version: 1, joints, materials } as Catalog;
}

export interface Merged {
  document: Document;
  added: string[];
  /** Entries that the design has otherwise: they stay as they are here. */
  kept: string[];
}

/** A design with a catalog's entries beside its own; its own stay where both have one of a name. */
export function merged(document: Document, catalog: Catalog): Merged {
  const added: string[] = [];
  const kept: string[] = [];
  const both = <T>(
    own: Record<string, T> | null | undefined,
    theirs: Record<string, T>,
  ): Record<string, T> => {
    const now: Record<string, T> = { ...own };
    for (const [name, entry] of Object.entries(theirs)) {
      if (!(name in now)) {
        now[name] = entry;
        added.push(name);
      } else if (JSON.stringify(now[name]) !== JSON.stringify(entry)) kept.push(name);
    }
    return now;
  };
  const joints = both(document.joints, catalog.joints);
  const materials = both(document.materials, catalog.materials);
  const more = {
    ...(Object.keys(joints).length > 0 ? { joints } : {}),
    ...(Object.keys(materials).length > 0 ? { materials } : {}),
  };
  return { document: { ...document, ...more }, added, kept };
}
