/** The shop's own catalog of joints, steels, tubes and springs: for all builds on this device, and as an open file. */

import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { Document } from "../document/document";

type Entries<K extends "joints" | "materials"> = NonNullable<Document[K]>;

/** Sizes in mm; the steel by its entry among the materials, where that is said. */
export interface ShopTube {
  diameter: number;
  wall: number;
  material?: string | null;
}

/** N/mm, and mm: how far it is pressed when its coils touch, and how wide it is. */
export interface ShopSpring {
  rate: number;
  solid: number;
  diameter: number;
}

export interface Catalog {
  format: "oak-lever-catalog";
  version: 1;
  joints: Entries<"joints">;
  materials: Entries<"materials">;
  tubes: ShopTube[];
  springs: ShopSpring[];
}

type Kept = Omit<Catalog, "tubes" | "springs"> & Partial<Catalog>;

export const useCatalog = create<{ shop: Catalog | null; keep: (shop: Catalog) => void }>()(
  persist((set) => ({ shop: null, keep: (shop) => set({ shop }) }), {
    name: "oak-lever catalog",
    // one that was kept before it held tubes and springs has none
    merge: (kept, start) => {
      const shop = (kept as { shop?: Kept | null } | undefined)?.shop;
      return { ...start, shop: shop ? { ...shop, tubes: shop.tubes ?? [], springs: shop.springs ?? [] } : null };
    }, // prettier-ignore
  }),
);

export const catalogOf = (document: Document): Catalog => ({
  format: "oak-lever-catalog",
  version: 1,
  joints: document.joints ?? {},
  materials: document.materials ?? {},
  tubes: once([...document.links, document.lateral ?? {}].flatMap((one) => tubeIn(one))),
  springs: once(
    (document.corners?.shocks ?? []).flatMap(({ spring, diameter }) =>
      spring ? [{ rate: spring.rate, solid: spring.solid, diameter }] : [],
    ),
  ),
});

function tubeIn(part: object): ShopTube[] {
  const { diameter, wall, material } = (part as { tube?: Partial<ShopTube> | null }).tube ?? {};
  if (diameter === undefined || wall === undefined) return [];
  return [{ diameter, wall, ...(material ? { material } : {}) }];
}

/** Each entry once. */
export const once = <T>(all: readonly T[]): T[] => [
  ...new Map(all.map((one) => [JSON.stringify(one), one])).values(),
];

const isTable = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

const isSize = (value: unknown): value is number =>
  typeof value === "number" && Number.isFinite(value) && value > 0;

const isTube = (one: unknown): one is ShopTube =>
  isTable(one) && isSize(one["diameter"]) && isSize(one["wall"]) && 2 * one["wall"] <= one["diameter"];

const isSpring = (one: unknown): one is ShopSpring =>
  isTable(one) && isSize(one["rate"]) && isSize(one["solid"]) && isSize(one["diameter"]);

const isListOf = <T>(value: unknown, is: (one: unknown) => one is T): value is T[] =>
  Array.isArray(value) && value.every(is);

/** The catalog in a file's text, or what is wrong with it; what its joints and steels say is read with the design. */
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
  const { joints = {}, materials = {}, tubes = [], springs = [] } = read;
  if (!isTable(joints) || !isTable(materials))
    return "Its joints and its materials must be tables of entries.";
  if (!isListOf(tubes, isTube))
    return "Its tubes must be a list, each with a diameter and a wall of no more than half of it, mm.";
  if (!isListOf(springs, isSpring))
    return "Its springs must be a list, each with a rate, N/mm, its travel to solid and its diameter, mm.";
  return { format: "oak-lever-catalog", version: 1, joints, materials, tubes, springs } as Catalog;
}

/** Two catalogs in one; where both have an entry of one name, the first's. */
export const together = (one: Catalog, other: Catalog): Catalog => ({
  ...one,
  joints: { ...other.joints, ...one.joints },
  materials: { ...other.materials, ...one.materials },
  tubes: once([...one.tubes, ...other.tubes]),
  springs: once([...one.springs, ...other.springs]),
});

export interface Merged {
  document: Document;
  added: string[];
  /** Entries that the design has otherwise: they stay as they are here. */
  kept: string[];
}

/** A design with a catalog's joints and steels beside its own; its own stay where both have one of a name. */
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

/** A design that has one of some steels, where it had none of that name. */
export function withSteel(document: Document, steels: Entries<"materials">, name: string): Document {
  const entry = steels[name];
  if (entry === undefined || document.materials?.[name] !== undefined) return document;
  return { ...document, materials: { ...document.materials, [name]: entry } };
}
