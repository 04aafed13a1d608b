/**
 * The truck that the open design stands on. Stored against a base, as designs are: an edit is the change of a few
 * figures, so that where another tablet stored others meanwhile, both stand.
 */

import { create } from "zustand";

import { addressOf, NO_SERVER, reasonOf, type Schemas, server } from "../api/client";
import { stepBetween, stepped } from "../document/steps";
import { type Document, overlaid } from "../document/document";
import { useDesign } from "./design";
import { writtenOut } from "./written";
import { ask, drop, heldIn, onOutbox, type Operation, takeUp } from "./outbox";

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

const MOVED_ON = "Somebody else changed the truck meanwhile: look at it, then do it again.";
const THEIRS =
  "Somebody else changed this figure meanwhile: theirs stands. Look at it, then change it again.";
const WAITS = "The server does not answer: it is held on this device, and done when the server is back.";
const RETRY_MS = 1500;
const queueOf = (build: number) => `truck ${build}`;

export const useTruck = create<OpenTruck>()(() => ({
  truck: null,
  since: null,
  trouble: null,
  open,
  edit,
  move: (end, by) => restand(`the ${end} axle moved`, "/api/builds/{build_id}/truck/move", { end, by }),
  setRadius: (end, radius, meant, source) =>
    restand(`the ${end} tires’ loaded radius`, "/api/builds/{build_id}/truck/radius", {
      end, radius, meant, source,
    }), // prettier-ignore
  readSince: () => set({ since: null }),
}));

const get = useTruck.getState;
const set = useTruck.setState;

let retry: ReturnType<typeof setTimeout> | undefined;
/** What the server last said. */
let fetched: Truck | null = null;

/** What the server has, with what this tab holds of it put on top. */
const show = (newest: Truck, held: readonly Operation[] = heldOf(newest.build)) => {
  fetched = newest;
  let document = writtenOut(newest.document);
  for (const one of held.filter(({ kind, refused }) => kind === "truck" && !refused)) {
    try {
      document = stepped(document, stepBetween(one.from, one.body!["document"]), "again");
    } catch {
      // what it changed is no more: the server will say so
    }
  }
  const truck = { ...newest, document };
  set({ truck, trouble: null });
  stand(truck);
};

const heldOf = (build: number) => heldIn(queueOf(build));

onOutbox((heard, mine) => {
  const { truck, open } = get();
  const { operation } = heard;
  if (!truck || operation.queue !== queueOf(truck.build) || heard.what !== "answered") return;
  const { data, error, status } = heard.outcome;
  if (!mine) {
    if (error === undefined) void open(truck.build);
    return;
  }
  if (error === undefined) show(data as Truck);
  else if (operation.kind === "truck") {
    void drop({ id: operation.id });
    const others = heldOf(truck.build).filter((one) => one.id !== operation.id);
    show(status === 409 ? (error as { newest: Truck }).newest : (fetched ?? truck), others);
    set({ trouble: status === 409 ? THEIRS : reasonOf(error) });
  }
});

/** A change of the truck that moves designs of an axle with it. */
async function restand(
  words: string,
  path: "/api/builds/{build_id}/truck/move" | "/api/builds/{build_id}/truck/radius",
  body: Record<string, unknown>,
): Promise<boolean> {
  const { truck } = get();
  if (!truck) return false;
  set({ trouble: null });
  const { build, number } = truck;
  const url = addressOf(path, { build_id: build });
  const said = await ask({ queue: queueOf(build), method: "POST", url, words, base: number, body });
  if (said === "held") {
    set({ trouble: WAITS });
    return true;
  }
  if (said.error === undefined) {
    await useDesign.getState().catchUp(); // before it stands on the changed truck: it was changed with it
    show(said.data as Truck);
    return true;
  }
  if (said.status === 409) show((said.error as { newest: Truck }).newest);
  set({ trouble: said.status === 409 ? MOVED_ON : reasonOf(said.error) });
  return false;
}

async function open(build: number): Promise<void> {
  clearTimeout(retry);
  if (get().truck?.build !== build) set({ truck: null, trouble: null });
  try {
    const { data, error } = await server.truck(build);
    if (data) show(data, await takeUp(queueOf(build)));
    else set({ trouble: reasonOf(error) });
  } catch {
    set({ trouble: NO_SERVER });
    retry = setTimeout(() => void get().open(build), RETRY_MS);
  }
}

async function edit(wanted: TruckDocument): Promise<boolean> {
  const document = writtenOut(wanted);
  const { truck } = get();
  if (!truck) return false;
  if (stepBetween(truck.document, document).length === 0) return true;
  const from = truck.document;
  set({ trouble: null });
  const said = await ask({
    queue: queueOf(truck.build), kind: "truck", method: "POST", words: `figures of ${truck.document.name}`,
    url: addressOf("/api/builds/{build_id}/truck/revisions", { build_id: truck.build }),
    base: truck.number, body: { document }, from,
  }); // prettier-ignore
  if (said === "held") show(fetched ?? truck); // with what is held on top: it stands as if it were stored
  return said === "held" || said.error === undefined;
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

/** A revision stands on the truck of its day: the same design on the truck as it is now. */
export function onNewestTruck(document: Document): Document {
  const { truck } = useTruck.getState();
  return truck && !document.as_found ? overlaid(document, truck.overlays[document.axle.end]) : document;
}
