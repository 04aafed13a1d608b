/** What a key asks an area to open: the area that has it hears of it. */

import { create } from "zustand";

export type Opened = "tape" | "layout";

interface Asking {
  open: Opened | null;
  ask: (what: Opened) => void;
  close: () => void;
}

export const useAsking = create<Asking>()((set) => ({
  open: null,
  ask: (what) => set({ open: what }),
  close: () => set({ open: null }),
}));
