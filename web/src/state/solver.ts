/**
 * The cycle of the document on screen, as the server works it out.
 *
 * It listens to the stores rather than to React, so that a pointer's move is on its way to the server before the
 * drawing is touched.
 */

import { create } from "zustand";

import { BUSY, type CycleAnswer, reasonOf, type Schemas, server } from "../api/client";
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

export interface Gaps extends GapsAnswer {
  document: Document;
}

type GapsAnswer = Pick<Schemas["ClearOut"], "pairs" | "findings">;

interface Solving {
  /** The last good answer; stays while newer ones are awaited or refused. */
  solved: Solved | null;
  /** The document that everything judged was last worked out for: another than is drawn while a newer one is awaited. */
  judged: Document | null;
  /** Every gap of the design it was last worked out for, with what was found of those that are too small. */
  gaps: Gaps | null;
  /** Why the gaps could not be worked out, if so. */
  gapsFailed: string | null;
  /** Why the document on screen could not be worked out, if so. */
  refusal: string | null;
  lost: boolean;
}

/** `n`: which question it is, in the order they were asked. */
interface Question extends Omit<Solved, "answer"> {
  n: number;
}

export const useSolver = create<Solving>()(() => ({
  solved: null,
  judged: null,
  gaps: null,
  gapsFailed: null,
  refusal: null,
  lost: false,
}));

/** Whether what is judged on screen is of the design as it is drawn. */
export function useIsJudged(): boolean {
  const judged = useSolver((s) => s.judged);
  const shown = useDesign((s) => s.draft ?? s.document);
  return judged !== null && judged === shown;
}

const RETRY_MS = 1500;
/** A hand that has not moved for so long rests: then all else is worked out; while it moves, no less often than PACE_MS. */
const REST_MS = 60;
const PACE_MS = 250;
/** The document last asked about: the one a drag ends with is the one its last answer was for. */
let asked: Document | null = null;
/** How many questions there were, and which of them is drawn: an older answer brings no older pose back. */
let [count, drawn] = [0, 0];
/** The newest question that everything was asked about. */
let wanted = 0;
let wholeAt = 0;

/** Everything: sweeps, findings, judged values. */
const wholes = latest<Question>(async (question) => {
  try {
    const { data, error, status } = await server.cycle(plain(question));
    wholeAt = performance.now();
    if (useDesign.getState().document === null) return;
    if (data) put(question, data);
    else {
      if (question.n >= drawn) useDesign.getState().draw(question.document);
      useSolver.setState({ refusal: reasonOf(error), lost: false });
    }
    if (status === BUSY) await again(question);
  } catch {
    useSolver.setState({ lost: true });
    await again(question);
  }
});

const BY_GRAVITY = ["stop", "fix", "consider", "good"];

/** An answer with what was found of the gaps of the very same design. */
function withGaps(answer: CycleAnswer, document: Document): CycleAnswer {
  const { gaps } = useSolver.getState();
  if (gaps?.document !== document || gaps.findings.length === 0) return answer;
  const known = new Set(gaps.findings.map(({ id }) => id));
  const findings = [...answer.findings.filter(({ id }) => !known.has(id)), ...gaps.findings];
  findings.sort((a, b) => BY_GRAVITY.indexOf(a.severity) - BY_GRAVITY.indexOf(b.severity));
  return { ...answer, findings };
}

/** The gaps take longer: they are asked for once a hand has rested. */
const gaps = latest<Document>(async (document) => {
  await later(GAPS_REST_MS);
  if (useSolver.getState().judged !== document) return;
  try {
    const { data, error, status } = await server.clear({ document });
    if (data) {
      useSolver.setState({ gaps: { ...data, document }, gapsFailed: null });
      const { solved } = useSolver.getState();
      if (solved?.document === document)
        useSolver.setState({ solved: { ...solved, answer: withGaps(solved.answer, document) } });
    } else if (status === BUSY) await askGapsAgain(document);
    else useSolver.setState({ gapsFailed: reasonOf(error) });
  } catch {
    await askGapsAgain(document);
  }
});

const GAPS_REST_MS = 400;

async function askGapsAgain(document: Document): Promise<void> {
  await later(RETRY_MS);
  if (useSolver.getState().judged === document) gaps.again(document);
}

function put(question: Question, answer: CycleAnswer): void {
  const data = withGaps(answer, question.document);
  const { solved } = useSolver.getState();
  if (solved && drawn > question.n) {
    const { links, here, misalignment, carried } = solved.answer;
    const answer = { ...data, links, here, misalignment, carried };
    useSolver.setState({
      solved: { ...solved, answer },
      judged: question.document,
      refusal: null,
      lost: false,
    });
    return;
  }
  drawn = question.n;
  useDesign.getState().draw(question.document);
  const { document } = question;
  useSolver.setState({
    solved: { answer: data, ...plain(question) },
    judged: document,
    refusal: null,
    lost: false,
  });
}

const plain = ({ document, travel, articulation }: Question) => ({ document, travel, articulation });

/** What the hand looks at: the links and the figures in this one pose; all else follows when there is time. */
const poses = latest<Question>(async (question) => {
  const { solved } = useSolver.getState();
  try {
    const { data } = solved ? await server.look(plain(question)) : {};
    if (useDesign.getState().document === null) return;
    const now = useSolver.getState().solved;
    if (data && now && question.n > drawn) {
      drawn = question.n;
      useDesign.getState().draw(question.document);
      useSolver.setState({ solved: { answer: { ...now.answer, ...data }, ...plain(question) } });
    }
  } catch {
    // whether the server is gone is for the whole answer to find out: it asks again until it is back
  }
  if (performance.now() - wholeAt > PACE_MS) askWhole(question);
  else
    void later(REST_MS).then(() => {
      if (question.n === count) askWhole(question);
    });
});

/** A question never takes the place of a newer one that waits. */
function askWhole(question: Question): void {
  if (question.n < wanted) return;
  wanted = question.n;
  wholes.put(question);
}

async function again(question: Question): Promise<void> {
  await later(RETRY_MS);
  if (useDesign.getState().document) wholes.again(question);
}

/** `hurried`: a hand is moving, and looks at the pose first. */
function ask(hurried: boolean): void {
  const { document: shown, draft } = useDesign.getState();
  const document = draft ?? shown;
  asked = document;
  count += 1;
  const question = document && { document, ...scrubbed(document, useScrub.getState()), n: count };
  if (question && hurried) poses.put(question);
  else if (question) askWhole(question);
  else {
    poses.drop();
    wholes.drop();
    gaps.drop();
    useSolver.setState({
      solved: null,
      judged: null,
      gaps: null,
      gapsFailed: null,
      refusal: null,
      lost: false,
    });
  }
}

useDesign.subscribe(({ draft, document }) => {
  if ((draft ?? document) !== asked) ask(draft !== null);
});
useScrub.subscribe(() => ask(true));
useSolver.subscribe(({ judged }, was) => {
  if (judged && judged !== was.judged) gaps.put(judged);
});
