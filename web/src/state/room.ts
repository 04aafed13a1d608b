/** Which keep-out or zone is chosen; and edits of the room that are checked before they are taken. */

import { useState } from "react";
import { create } from "zustand";

import { reasonOf, server } from "../api/client";
import type { Document } from "../document/document";
import { found, type Which } from "../document/room";
import { useDesign } from "./design";

interface Chosen {
  chosen: Which | null;
  choose: (which: Which | null) => void;
}

export const useRoom = create<Chosen>()((set) => ({
  chosen: null,
  choose: (chosen) => set({ chosen }),
}));

/** The one that is chosen, as long as the design has it. */
export function useChosen(document: Document) {
  const which = useRoom((s) => s.chosen);
  const one = which ? found(document, which) : undefined;
  return one && which ? { which, one } : null;
}

/** Change the open design. */
export function edited(change: (document: Document) => Document): void {
  const { document, edit } = useDesign.getState();
  if (document) edit(change(document));
}

/**
 * Change the open design where the reader takes it; else why not, and nothing is changed. While the server is away the
 * change is held, and read once it is back.
 */
export async function taken(change: (document: Document) => Document): Promise<string | null> {
  const { document } = useDesign.getState();
  if (!document) return null;
  const next = change(document);
  try {
    const { error } = await server.gaps({ document: next, travel: 0, articulation: 0 });
    if (error !== undefined) return reasonOf(error);
  } catch {
    if (useDesign.getState().document !== document) return await taken(change);
    useDesign.getState().editUnchecked(next);
    return null;
  }
  if (useDesign.getState().document !== document) return await taken(change);
  useDesign.getState().edit(next);
  return null;
}

/** Edits that are checked, for who shows why the last one was not taken: that stays said until the next. */
export function useTaking() {
  const [why, setWhy] = useState<string | null>(null);
  const take = async (change: (document: Document) => Document): Promise<boolean> => {
    const refused = await taken(change);
    setWhy(refused);
    return refused === null;
  };
  return { why, setWhy, take };
}
