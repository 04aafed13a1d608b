/**
 * The cycle of the document on screen, as the server works it out.
 *
 * It listens to the stores rather than to React, so that a pointer's move is on its way to the server before the
 * drawing is touched.
 */

import { create } from "zustand";

import { BUSY, type CycleAnswer, reasonOf, server } from "../api/client";
import type { Document } from "../document/document";
import { useDesign } from "./design";
import { scrubbed, useScrub } from "./scrub";
import type { Deg, Mm } from "../units/brands";
import { later, latest } from "../solve/latest";

export interface Solved {
  answer: CycleAnswer;
  document: Document;
  travel: Mm;
  articulation: Deg;
}

interface Solving {
  /** The last good answer; stays while newer ones are awaited or refused. */
  solved: Solved | null;
  /** Why the document on screen could not be worked out, if so. */
  refusal: string | null;
  lost: boolean;
}

type Question = Omit<Solved, "answer">;

export const useSolver = create<Solving>()(() => ({ solved: null, refusal: null, lost: false }));

const RETRY_MS = 1500;
/** The document last asked about: the one a drag ends with is the one its last answer was for. */
let asked: Document | null = null;

const cycles = latest<Question>(async (question) => {
  try {
    const { data, error, status } = await server.cycle(question);
    if (useDesign.getState().document === null) return;
    useDesign.getState().draw(question.document);
    if (data) useSolver.setState({ solved: { answer: data, ...question }, refusal: null, lost: false });
    else useSolver.setState({ refusal: reasonOf(error), lost: false });
    if (status === BUSY) await again(question);
  } catch {
    useSolver.setState({ lost: true });
    await again(question);
  }
});

async function again(question: Question): Promise<void> {
  await later(RETRY_MS);
  if (useDesign.getState().document) cycles.again(question);
}

function ask(): void {
  const { document: shown, draft } = useDesign.getState();
  const document = draft ?? shown;
  asked = document;
  if (document) cycles.put({ document, ...scrubbed(document, useScrub.getState()) });
  else {
    cycles.drop();
    useSolver.setState({ solved: null, refusal: null, lost: false });
  }
}

useDesign.subscribe(({ draft, document }) => {
  if ((draft ?? document) !== asked) ask();
});
useScrub.subscribe(ask);
