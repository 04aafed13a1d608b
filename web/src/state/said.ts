/** What has to be said of something typed or done that is no longer on screen, until it is read. */

import { create } from "zustand";

export interface Said {
  words: string;
  /** What can still be done about it. */
  offers: Offer[];
}

export interface Offer {
  words: string;
  act: () => void;
}

interface Saying {
  said: Said | null;
  say: (words: string, offers?: Offer[]) => void;
  read: () => void;
}

export const useSaid = create<Saying>()((set) => ({
  said: null,
  say: (words, offers = []) => set({ said: { words, offers } }),
  read: () => set({ said: null }),
}));

let typed: (() => void) | null = null;

/** A field in which something is typed and not taken yet says how to take it; null once it has been. */
export const typing = (take: (() => void) | null) => {
  typed = take;
};

/** Before anything else is chosen or opened: what stands typed in a field is taken, or refused in words. */
export function takeTyped(): void {
  const take = typed;
  typed = null;
  take?.();
}

/** The same of whatever field the hand is in, whose own way is to take what stands in it once it is left: a page that
 * closes or goes back takes the field away without that. */
function leaveField(): void {
  takeTyped();
  const field = document.activeElement;
  if (field instanceof HTMLInputElement) field.blur();
}

if (typeof addEventListener === "function") {
  addEventListener("pagehide", leaveField);
  addEventListener("popstate", leaveField, true);
}
