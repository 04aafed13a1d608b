/** Which constructions stand on the floor whatever is chosen; per user. */

import { create } from "zustand";
import { persist } from "zustand/middleware";

export const DRAWN = {
  dimensions: "Dimensions of the chosen mount",
  center: "Lines to the instant center",
  neutral: "100 % line and force line",
  axis: "Roll axis and its apexes",
  plan: "Triangulation angles",
  arcs: "Swing arcs",
  path: "Axle path",
} as const;
export type Drawn = keyof typeof DRAWN;

export const useDrawn = create<{ drawn: Drawn[]; setDrawn: (drawn: Drawn[]) => void }>()(
  persist((set) => ({ drawn: ["dimensions"], setDrawn: (drawn) => set({ drawn }) }), {
    name: "oak-lever.drawn",
  }),
);
