/** What is chosen on the Links screen, and what is drawn behind the design: nothing of it is stored with the design. */

import { create } from "zustand";
import { persist } from "zustand/middleware";

import { type CycleAnswer, type Finding, server } from "../../api/client";
import { useBuild } from "../../design/build";
import type { Document } from "../../design/document";
import { useDesign } from "../../design/store";
import { scrubbed, useScrub } from "../../solve/solver";
import type { ReadingId } from "./readings";

/** A design drawn behind the one on the floor: pinned to compare with, or a cure that is being looked at. */
export interface Behind {
  kind: "pinned" | "preview";
  name: string;
  document: Document;
  answer: CycleAnswer | null;
}

interface Bench {
  chosen: string[];
  reading: ReadingId | null;
  finding: string | null;
  converging: boolean;
  behind: Behind | null;
  choose: (key: string, also?: boolean) => void;
  read: (reading: ReadingId | null) => void;
  find: (finding: string | null) => void;
  converge: (on: boolean) => void;
  putBehind: (behind: Omit<Behind, "answer"> | null) => void;
}

let pinned: Behind | null = null;

export const useBench = create<Bench>()((set, get) => ({
  chosen: [],
  reading: null,
  finding: null,
  converging: false,
  behind: null,
  choose: (key, also = false) => {
    const { chosen } = get();
    if (!also) set({ chosen: [key] });
    else set({ chosen: chosen.includes(key) ? chosen.filter((k) => k !== key) : [...chosen, key] });
  },
  read: (reading) => set({ reading, finding: null, converging: false }),
  find: (finding) => set({ finding, reading: null, converging: false }),
  converge: (converging) => set({ converging, reading: null, finding: null }),
  putBehind: (behind) => {
    const next = behind && { ...behind, answer: null };
    if (behind?.kind === "pinned" || (behind === null && get().behind?.kind === "pinned")) pinned = next;
    set({ behind: next ?? pinned });
    ask();
  },
}));

export function clearBench() {
  pinned = null;
  useBench.setState({ chosen: [], reading: null, finding: null, converging: false, behind: null });
}

let busy = false;
const waiting = { again: false };

/** Works out the design behind at the scrubber's place: latest wins, one request under way. */
function ask(): void {
  if (busy) waiting.again = true;
  else void run();
}

async function run(): Promise<void> {
  busy = true;
  await answerBehind();
  busy = false;
  if (waiting.again) {
    waiting.again = false;
    ask();
  }
}

async function answerBehind(): Promise<void> {
  const { behind } = useBench.getState();
  if (!behind) return;
  const question = {
    document: behind.document,
    bands: useBuild.getState().bands,
    ...scrubbed(behind.document, useScrub.getState()),
  };
  const { data } = await server.cycle(question).catch(() => ({ data: undefined }));
  const now = useBench.getState().behind;
  if (data && now?.document === behind.document) useBench.setState({ behind: { ...now, answer: data } });
}

useScrub.subscribe(() => useBench.getState().behind && ask());

/** Look at a change without taking it: drawn behind, its figures beside the present ones. */
export const preview = (name: string, document: Document) =>
  useBench.getState().putBehind({ kind: "preview", name, document });

export function dropPreview() {
  if (useBench.getState().behind?.kind === "preview") useBench.getState().putBehind(null);
}

/** Take what is being looked at. */
export function takePreview() {
  const { behind } = useBench.getState();
  if (behind?.kind !== "preview") return;
  useDesign.getState().edit(behind.document);
  dropPreview();
}

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

/** Which constructions stand on the floor whatever is chosen; per user. */
export const useDrawn = create<{ drawn: Drawn[]; setDrawn: (drawn: Drawn[]) => void }>()(
  persist((set) => ({ drawn: ["dimensions"], setDrawn: (drawn) => set({ drawn }) }), {
    name: "oak-lever.drawn",
  }),
);

const GRAVITY = ["stop", "fix", "consider"] as const;

/** The findings that ask for something, in their order. */
export const pressing = (findings: Finding[]): Finding[] =>
  findings.filter((f) => (GRAVITY as readonly string[]).includes(f.severity));
