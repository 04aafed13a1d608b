/** What a key asks to be opened: who has it, an area or the frame, hears of it. */

import { create } from "zustand";

export type Opened = "tape" | "layout" | "help";

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
