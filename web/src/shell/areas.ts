/** What a key asks an area to open: the area that has it hears of it. */

import { create } from "zustand";

interface Asking {
  tape: boolean;
  ask: (what: "tape") => void;
  close: () => void;
}

export const useAsking = create<Asking>()((set) => ({
  tape: false,
  ask: () => set({ tape: true }),
  close: () => set({ tape: false }),
}));
