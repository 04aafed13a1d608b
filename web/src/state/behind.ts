/** The design drawn behind the one on the floor: pinned to compare with, or a change that is being looked at. */

import { create } from "zustand";

import { type CycleAnswer, server } from "../api/client";
import type { Document } from "../document/document";
import { latest } from "../solve/latest";
import { useDesign } from "./design";
import { scrubbed, useScrub } from "./scrub";

export interface Behind {
  kind: "pinned" | "preview";
  name: string;
  document: Document;
  answer: CycleAnswer | null;
}

interface Backdrop {
  behind: Behind | null;
  putBehind: (behind: Omit<Behind, "answer"> | null) => void;
}

let pinned: Behind | null = null;

export const useBehind = create<Backdrop>()((set, get) => ({
  behind: null,
  putBehind: (behind) => {
    const next = behind && { ...behind, answer: null };
    if (behind?.kind === "pinned" || (behind === null && get().behind?.kind === "pinned")) pinned = next;
    set({ behind: next ?? pinned });
    ask();
  },
}));

export function clearBehind(): void {
  pinned = null;
  useBehind.setState({ behind: null });
}

/** Works out the design behind at the scrubber's place. */
const cycles = latest<Behind>(async (behind) => {
  const question = { document: behind.document, ...scrubbed(behind.document, useScrub.getState()) };
  const { data } = await server.cycle(question).catch(() => ({ data: undefined }));
  const now = useBehind.getState().behind;
  if (data && now?.document === behind.document) useBehind.setState({ behind: { ...now, answer: data } });
});

function ask(): void {
  const { behind } = useBehind.getState();
  if (behind) cycles.put(behind);
}

useScrub.subscribe(ask);

/** Look at a change without taking it: drawn behind, its figures beside the present ones. */
export const preview = (name: string, document: Document) =>
  useBehind.getState().putBehind({ kind: "preview", name, document });

export function dropPreview(): void {
  if (useBehind.getState().behind?.kind === "preview") useBehind.getState().putBehind(null);
}

/** Take what is being looked at. */
export function takePreview(): void {
  const { behind } = useBehind.getState();
  if (behind?.kind !== "preview") return;
  useDesign.getState().edit(behind.document);
  dropPreview();
}
