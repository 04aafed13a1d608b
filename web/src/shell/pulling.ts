/** Pulling a result: the wanted figures go to the core, the mounts come back and are drawn. Newest wins. */

import { create } from "zustand";

import { NO_SERVER, reasonOf, type Schemas, server } from "../api/client";
import { theRegister } from "../api/register";
import { type Document, placed } from "../document/document";
import { useDesign } from "./design";
import { latest } from "../solve/latest";

export type Wanted = Schemas["WantedIn"];

interface Pulling {
  /** What the last answer could not reach, or why it could not be worked out; null while all is well. */
  short: { wanted: Wanted[]; got: (number | null)[]; free: number; stops: string[] } | null;
  trouble: string | null;
}

const WELL: Pulling = { short: null, trouble: null };
export const usePulling = create<Pulling>()(() => WELL);

let base: Document | null = null;
/** The steps there were when it was taken hold of: should there be others since, someone edited meanwhile. */
let steps: unknown = null;
let newest: Document | null = null;

/** Take hold of a result: what is pulled starts from the document as it stands. */
export function holdResult() {
  base = useDesign.getState().document;
  steps = useDesign.getState().past;
  newest = null;
  usePulling.setState(WELL);
}

const pulls = latest<{ from: Document; wanted: Wanted[] }>(async ({ from, wanted }) => {
  try {
    const { data, error } = await server.pull({ document: from, wanted, within: theRegister().pull_within });
    if (data) {
      newest = placed(from, data.at);
      usePulling.setState({
        short: data.met ? null : { wanted, got: data.got, free: data.free, stops: data.stops },
        trouble: null,
      });
      if (base === from && useDesign.getState().past === steps) useDesign.getState().preview(newest);
    } else usePulling.setState({ trouble: reasonOf(error) });
  } catch {
    usePulling.setState({ trouble: NO_SERVER });
  }
});

export function pullTo(wanted: Wanted[]) {
  if (base) pulls.put({ from: base, wanted });
}

/** Let go: the last answer becomes an edit; or, given up, everything goes back. */
export async function letGo(keep: boolean): Promise<void> {
  await pulls.idle();
  const from = base;
  base = null;
  if (!from) return;
  if (useDesign.getState().past !== steps) return; // an edit made while the answer was on its way stands
  useDesign.getState().edit(keep && newest ? newest : from, from);
  if (!keep) usePulling.setState(WELL);
}

/** Want figures at once, as one edit. */
export async function pullOnce(wanted: Wanted[]): Promise<void> {
  holdResult();
  pullTo(wanted);
  await letGo(true);
}

// what could not be reached was said of one design and of it as it was; it goes with them
useDesign.subscribe(({ stored, past }, before) => {
  if (stored?.design !== before.stored?.design || past.length < before.past.length) usePulling.setState(WELL);
});
