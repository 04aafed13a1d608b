/**
 * The cycle of the document on screen, as the server works it out: latest wins, one request under way.
 *
 * It listens to the stores rather than to React, so that a pointer's move is on its way to the server before the
 * drawing is touched.
 */

import { create } from "zustand";

import { type CycleAnswer, reasonOf, server } from "../api/client";
import type { Document } from "../design/document";
import { type Bands, useBuild } from "../design/build";
import { useDesign } from "../design/store";

export interface Solved {
  answer: CycleAnswer;
  document: Document;
  bands: Bands;
  travel: number;
  articulation: number;
}

interface Solving {
  /** The last good answer; stays while newer ones are awaited or refused. */
  solved: Solved | null;
  /** Why the document on screen could not be worked out, if so. */
  refusal: string | null;
  lost: boolean;
}

type Question = Omit<Solved, "answer">;

/** Where the scrubbers stand: travel in mm, articulation in degrees. */
export const useScrub = create<{ travel: number; articulation: number }>()(() => ({
  travel: 0,
  articulation: 0,
}));

export const useSolver = create<Solving>()(() => ({ solved: null, refusal: null, lost: false }));

const RETRY_MS = 1500;
let wanted: Question | null = null;
let busy = false;
/** The document last asked about: the one a drag ends with is the one its last answer was for. */
let asked: Document | null = null;

/** What the scrubbers ask for, within the design's own range. */
export function scrubbed(document: Document, scrub: { travel: number; articulation: number }) {
  const { bump, droop, articulation } = document.travel;
  return {
    travel: Math.min(Math.max(scrub.travel, -droop), bump),
    articulation: Math.min(Math.max(scrub.articulation, -articulation), articulation),
  };
}

function ask(): void {
  const { document: shown, draft } = useDesign.getState();
  const document = draft ?? shown;
  asked = document;
  if (!document) {
    wanted = null;
    useSolver.setState({ solved: null, refusal: null, lost: false });
    return;
  }
  wanted = { document, bands: useBuild.getState().bands, ...scrubbed(document, useScrub.getState()) };
  if (!busy) void run();
}

async function run(): Promise<void> {
  busy = true;
  while (wanted) {
    const question: Question = wanted;
    wanted = null;
    try {
      const { data, error } = await server.cycle(question);
      if (useDesign.getState().document === null) continue;
      useDesign.getState().draw(question.document);
      if (data) useSolver.setState({ solved: { answer: data, ...question }, refusal: null, lost: false });
      else useSolver.setState({ refusal: reasonOf(error), lost: false });
    } catch {
      useSolver.setState({ lost: true });
      await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
      if (useDesign.getState().document) wanted ??= question;
    }
  }
  busy = false;
}

useDesign.subscribe(({ draft, document }) => {
  if ((draft ?? document) !== asked) ask();
});
useScrub.subscribe(ask);
useBuild.subscribe(ask);
