/**
 * Pulling a result. While the hand is on it, the wanted figures go to the core and the mounts that follow are drawn, the
 * newest first. Let go, it becomes an offer: whole shop increments, what moves and how far, looked at before it is taken.
 */

import { create } from "zustand";

import { NO_SERVER, reasonOf, type Schemas, server } from "../api/client";
import { theRegister } from "../api/register";
import { type Document, placed } from "../document/document";
import { increment } from "../units/tape";
import { dropPreview, preview, takePreview } from "./behind";
import { useDesign } from "./design";
import { usePreferences } from "./preferences";
import { useSelection } from "./selection";
import { latest } from "../solve/latest";

export type Wanted = Schemas["WantedIn"];
type Pulled = Schemas["Pulled"];

export interface Offered {
  wanted: Wanted[];
  /** What the design was that it was asked of. */
  from: Document;
  pulled: Pulled;
}

interface Pulling {
  /** The columns that were wanted: what is said below is said of them. */
  of: readonly string[];
  /** What the last answer could not reach, or why it could not be worked out; null while all is well. */
  short: Pulled | null;
  trouble: string | null;
  offered: Offered | null;
}

const WELL: Pulling = { of: [], short: null, trouble: null, offered: null };
export const usePulling = create<Pulling>()(() => WELL);

let base: Document | null = null;
/** The steps there were when it was taken hold of: should there be others since, someone edited meanwhile. */
let steps: unknown = null;
let last: Wanted[] | null = null;

/** Take hold of a result: what is pulled starts from the document as it stands. */
export function holdResult() {
  dropOffer();
  base = useDesign.getState().document;
  steps = useDesign.getState().past;
  last = null;
}

const ask = (from: Document, wanted: Wanted[], step: number | null) =>
  server.pull({ document: from, wanted, within: theRegister().pull_within, increment: step });

const say = (wanted: Wanted[], said: Partial<Pulling>) =>
  usePulling.setState({ ...WELL, of: wanted.map((one) => one.figure), ...said }, true);

const pulls = latest<{ from: Document; wanted: Wanted[] }>(async ({ from, wanted }) => {
  try {
    const { data, error } = await ask(from, wanted, null);
    if (data) {
      say(wanted, { short: data.met ? null : data });
      if (base === from && useDesign.getState().past === steps)
        useDesign.getState().preview(placed(from, data.at));
    } else say(wanted, { trouble: reasonOf(error) });
  } catch {
    say(wanted, { trouble: NO_SERVER });
  }
});

export function pullTo(wanted: Wanted[]) {
  if (!base) return;
  last = wanted;
  pulls.put({ from: base, wanted });
}

/** Let go: everything goes back, and what was wanted is offered in whole increments; or, given up, only goes back. */
export async function letGo(keep: boolean): Promise<void> {
  await pulls.idle();
  const [from, wanted] = [base, last];
  base = null;
  if (!from) return;
  if (useDesign.getState().past !== steps) return; // an edit made while the answer was on its way stands
  useDesign.getState().edit(from, from);
  if (!keep || !wanted) calm();
  else await offer(from, wanted);
}

async function offer(from: Document, wanted: Wanted[]): Promise<void> {
  try {
    const { data, error } = await ask(from, wanted, increment(usePreferences.getState().units, "shop"));
    if (useDesign.getState().document !== from) return;
    if (!data) {
      say(wanted, { trouble: reasonOf(error) });
      return;
    }
    const moves = Object.keys(data.at).length > 0;
    say(wanted, { short: data.met ? null : data, offered: moves ? { wanted, from, pulled: data } : null });
    if (moves) preview("what was pulled", placed(from, data.at));
  } catch {
    say(wanted, { trouble: NO_SERVER });
  }
}

/** Want figures at once. */
export async function pullOnce(wanted: Wanted[]): Promise<void> {
  const { document } = useDesign.getState();
  dropOffer();
  if (document) await offer(document, wanted);
}

/** Take what is offered, as one edit. */
export function takeOffer(): void {
  if (!usePulling.getState().offered) return;
  takePreview();
  calm();
}

export function dropOffer(): void {
  if (usePulling.getState().offered) dropPreview();
  calm();
}

function calm(): void {
  if (usePulling.getState() !== WELL) usePulling.setState(WELL, true);
}

// what was wanted and what came of it belongs to one figure of one design as it was, and goes with them
useDesign.subscribe(({ stored, past }, before) => {
  if (stored?.design !== before.stored?.design || past !== before.past) dropOffer();
});
useSelection.subscribe(({ reading }, before) => {
  if (reading !== before.reading) dropOffer();
});
