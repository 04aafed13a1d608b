/** Pulling a result: the wanted figures go to the core, the mounts come back and are drawn. Newest wins. */

import { create } from "zustand";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import { type Document, placed } from "../../design/document";
import { useDesign } from "../../design/store";

export type Wanted = Schemas["WantedIn"];

interface Pulling {
  /** What the last answer could not reach, or why it could not be worked out; null while all is well. */
  short: { wanted: Wanted[]; got: (number | null)[]; free: number } | null;
  trouble: string | null;
}

export const usePulling = create<Pulling>()(() => ({ short: null, trouble: null }));

let base: Document | null = null;
/** The steps there were when it was taken hold of: should there be others since, someone edited meanwhile. */
let steps: unknown = null;
let wanted: Wanted[] | null = null;
let busy: Promise<void> | null = null;
let newest: Document | null = null;

/** Take hold of a result: what is pulled starts from the document as it stands. */
export function holdResult() {
  base = useDesign.getState().document;
  steps = useDesign.getState().past;
  newest = null;
  usePulling.setState({ short: null, trouble: null });
}

export function pullTo(figures: Wanted[]) {
  wanted = figures;
  busy ??= run();
}

async function run(): Promise<void> {
  while (wanted && base) {
    const [figures, from] = [wanted, base];
    wanted = null;
    try {
      const { data, error } = await server.pull({ document: from, wanted: figures, within: 150 });
      if (data) {
        newest = placed(from, data.at);
        usePulling.setState({
          short: data.met ? null : { wanted: figures, got: data.got, free: data.free },
          trouble: null,
        });
        if (base === from && useDesign.getState().past === steps) useDesign.getState().preview(newest);
      } else usePulling.setState({ trouble: reasonOf(error) });
    } catch {
      usePulling.setState({ trouble: NO_SERVER });
    }
  }
  busy = null;
}

/** Let go: the last answer becomes an edit; or, given up, everything goes back. */
export async function letGo(keep: boolean): Promise<void> {
  await busy;
  const from = base;
  base = null;
  if (!from) return;
  if (useDesign.getState().past !== steps) return; // an edit made while the answer was on its way stands
  useDesign.getState().edit(keep && newest ? newest : from, from);
  if (!keep) usePulling.setState({ short: null, trouble: null });
}

/** Want figures at once, as one edit. */
export async function pullOnce(figures: Wanted[]): Promise<void> {
  holdResult();
  pullTo(figures);
  await letGo(true);
}
