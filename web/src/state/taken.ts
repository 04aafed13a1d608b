/** Which revision of a design was last taken to the shop, and what it was then; kept on this device. */

import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { Document } from "../document/document";

export interface Taken {
  revision: number;
  /** The day, as YYYY-MM-DD. */
  day: string;
  /** Without its room, which nothing is made from and which may be large. */
  document: Document;
}

/** So many designs' are kept, the latest taken. */
const MOST = 30;

interface Kept {
  taken: Record<string, Taken>;
  take: (design: number, one: Taken) => void;
}

export const useTaken = create<Kept>()(
  persist(
    (set) => ({
      taken: {},
      take: (design, one) =>
        set(({ taken }) => {
          const others = Object.entries(taken).filter(([key]) => key !== `${design}`);
          const latest = others.sort((a, b) => b[1].day.localeCompare(a[1].day)).slice(0, MOST - 1);
          return { taken: { ...Object.fromEntries(latest), [design]: one } };
        }),
    }),
    { name: "oak-lever taken to the shop" },
  ),
);
