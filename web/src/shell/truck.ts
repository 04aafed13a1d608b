/**
 * The truck that the open design stands on. Stored against a base, as designs are: an edit is the change of a few
 * figures, so that where another tablet stored others meanwhile, both stand.
 */

import { create } from "zustand";

import { type Answer, NO_SERVER, reasonOf, type Schemas, server } from "../api/client";
import { type Change, type Step, stepBetween, stepped } from "../document/steps";
import { overlaid } from "../document/document";
import { useDesign } from "./design";

export type Truck = Schemas["TruckOut"];
export type TruckDocument = Truck["document"];
export type Since = Schemas["SinceOut"];
export type Band = readonly [number | null, number | null];

interface OpenTruck {
  truck: Truck | null;
  /** What the truck did to the open design since it was last stored; null while nothing did, or once it was read. */
  since: Since | null;
  trouble: string | null;
  open: (build: number) => Promise<void>;
  /** Store what differs from the truck as it is on screen. */
  edit: (document: TruckDocument) => Promise<boolean>;
  /** Move an axle with its links fore-aft on the frame, mm, + forward. */
  move: (end: "front" | "rear", by: number) => Promise<boolean>;
  /** Set an axle’s loaded radius, mm: the truck sits on a tire that was measured, or the figure was a slip. */
  setRadius: (end: "front" | "rear", radius: number, meant: Meant, source: Source) => Promise<boolean>;
  readSince: () => void;
}

export type Meant = Schemas["RadiusIn"]["meant"];
type Source = Schemas["RadiusIn"]["source"];

const TRIES = 3;
const MOVED_ON = "Somebody else changed the truck meanwhile: look at it, then do it again.";
const LEFT_OUT = { bands: {}, sources: {}, marks: [], readings: [], cases: [], targets: {}, jobs: [] };

export const useTruck = create<OpenTruck>()((set, get) => {
  const show = (fetched: Truck) => {
    // what a file leaves out is written out, so that two tablets adding to it add to the same thing
    const truck = { ...fetched, document: { ...LEFT_OUT, ...fetched.document } };
    set({ truck, trouble: null });
    stand(truck);
  };

  /** Store a step on the newest truck; where somebody changed the same figure meanwhile, theirs stands and is said. */
  async function store(step: Step): Promise<boolean> {
    for (let tried = 0; tried < TRIES; tried++) {
      const truck = get().truck!;
      const document = stepped(truck.document, step, "again");
      const { data, error, status } = await server.saveTruck(truck.build, { base: truck.number, document });
      if (data) {
        show(data);
        return true;
      }
      if (status !== 409) {
        set({ trouble: reasonOf(error) });
        return false;
      }
      const { newest } = error as { newest: Truck };
      const theirs = stepBetween(truck.document, newest.document);
      show(newest);
      if (overlaps(step, theirs)) {
        set({
          trouble:
            "Somebody else changed this figure meanwhile: theirs stands. Look at it, then change it again.",
        });
        return false;
      }
    }
    set({ trouble: "The truck is being changed elsewhere; try again." });
    return false;
  }

  /** A change of the truck that moves designs of an axle with it. */
  async function restand(change: (build: number, base: number) => Promise<Answer<Truck>>): Promise<boolean> {
    const { truck } = get();
    if (!truck) return false;
    set({ trouble: null });
    try {
      const { data, error, status } = await change(truck.build, truck.number);
      if (status === 409) show((error as { newest: Truck }).newest);
      if (!data) {
        set({ trouble: status === 409 ? MOVED_ON : reasonOf(error) });
        return false;
      }
      await useDesign.getState().catchUp(); // before it stands on the changed truck: it was changed with it
      show(data);
      return true;
    } catch {
      set({ trouble: NO_SERVER });
      return false;
    }
  }

  return {
    truck: null,
    since: null,
    trouble: null,
    open: async (build) => {
      if (get().truck?.build !== build) set({ truck: null, trouble: null });
      try {
        const { data, error } = await server.truck(build);
        if (data) show(data);
        else set({ trouble: reasonOf(error) });
      } catch {
        set({ trouble: NO_SERVER });
      }
    },
    edit: async (document) => {
      const { truck } = get();
      if (!truck) return false;
      const step = stepBetween(truck.document, document);
      if (step.length === 0) return true;
      set({ trouble: null });
      try {
        return await store(step);
      } catch {
        set({ trouble: NO_SERVER });
        return false;
      }
    },
    move: (end, by) => restand((build, base) => server.moveAxle(build, { base, end, by })),
    setRadius: (end, radius, meant, source) =>
      restand((build, base) => server.setRadius(build, { base, end, radius, meant, source })),
    readSince: () => set({ since: null }),
  };
});

/** Whether two steps change the same figure, or one a part of what the other replaces. */
export function overlaps(one: Step, other: Step): boolean {
  const within = (a: Change, b: Change) => a.path.every((step, n) => b.path[n] === step);
  return one.some((a) => other.some((b) => within(a, b) || within(b, a)));
}

/** Put the open design, and what is held of it, on this truck. */
function stand(truck: Truck): void {
  const { stored, document, pending } = useDesign.getState();
  if (!stored || !document || stored.build !== truck.build) return;
  if (document.as_found) return; // recorded with the tires and weights that it had
  const on = <T>(doc: T): T => overlaid(doc, truck.overlays[document.axle.end]);
  if (stored.truck === truck.number && JSON.stringify(on(document)) === JSON.stringify(document)) return;
  useDesign.setState({
    stored: { ...stored, truck: truck.number, document: on(stored.document) },
    document: on(document),
    draft: null,
    pending: pending && on(pending),
  });
}

/** Judge a figure by another band from now on, on this truck; null: by the house's again. */
export async function setBand(figure: string, band: Band | null): Promise<void> {
  const { truck, edit } = useTruck.getState();
  if (!truck) return;
  const others = Object.fromEntries(
    Object.entries(truck.document.bands ?? {}).filter(([name]) => name !== figure),
  );
  const bands = band ? { ...others, [figure]: [band[0], band[1]] as [number | null, number | null] } : others;
  await edit({ ...truck.document, bands });
}

async function askSince(design: number): Promise<void> {
  const { data } = await server.since(design).catch(() => ({ data: undefined }));
  if (data && useDesign.getState().stored?.design === design)
    useTruck.setState({ since: data.changes.length > 0 ? data : null });
}

useDesign.subscribe(({ stored, newestTruck }, before) => {
  if (!stored || (stored === before.stored && newestTruck === before.newestTruck)) return;
  const opened = stored.design !== before.stored?.design;
  const { truck, open } = useTruck.getState();
  if (opened) useTruck.setState({ since: null });
  if (opened && stored.stored_on !== newestTruck) void askSince(stored.design);
  if (truck?.build !== stored.build || newestTruck > truck.number) void open(stored.build);
});
