/** The server, in the types of its own contract. */

import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Revision = Schemas["RevisionOut"];
export type Build = Schemas["BuildOut"];
export type Finding = Schemas["Finding"];
export type CycleAnswer = Schemas["CycleOut"];
export type Sweep = Schemas["SweepOut"];

/** What came back; a thrown error means that nothing did. */
export type Answer<T> =
  { data: T; error?: undefined; status: number } | { data?: undefined; error: unknown; status: number };

/** Work that goes on in the server for longer than one waits. */
export type LongPath = "hole_map" | "find" | "shop_files";
export type WorkSoFar<T> = Omit<Schemas["WorkOut_Search_"], "result"> & { result: T | null };

type Ids = Record<string, number | string>;

let page: string | null = null;
const outdated = new Set<() => void>();

/** The server says which page it serves: another than at first means that this tab is an old one. */
function notePage(served: string | null): void {
  if (served === null) return;
  page ??= served;
  if (served !== page) outdated.forEach((hear) => hear());
}

/** Hear of it when a newer page is served than this one. */
export function onOutdated(hear: () => void): () => void {
  outdated.add(hear);
  return () => outdated.delete(hear);
}

async function send<T>(
  method: string,
  url: string,
  body: unknown,
  signal: AbortSignal | null,
): Promise<Answer<T>> {
  const response = await fetch(url, {
    method,
    headers: body === undefined ? {} : { "Content-Type": "application/json" },
    body: body === undefined ? null : JSON.stringify(body),
    signal,
  });
  notePage(response.headers.get("X-Oak-Lever-Page"));
  const said: unknown = response.status === 204 ? null : await response.json().catch(() => null);
  return response.ok
    ? { data: said as T, status: response.status }
    : { error: said, status: response.status };
}

/** An address of the contract, with numbers in it. */
export const addressOf = (path: keyof paths, ids: Ids) =>
  Object.entries(ids).reduce<string>((at, [name, id]) => at.replace(`{${name}}`, String(id)), path);

/** `signal`: what is given up, the server stops working on too. */
const call = <T>(method: string, path: keyof paths, ids: Ids = {}, body?: unknown, signal?: AbortSignal) =>
  send<T>(method, addressOf(path, ids), body, signal ?? null);

/** A page of a list; what is asked for stands in the address. */
function listed<T>(path: keyof paths, ids: Ids, asked: Record<string, string | number | null>) {
  const given = Object.entries(asked).filter(([, value]) => value !== null && value !== "");
  const query = new URLSearchParams(given.map(([name, value]) => [name, String(value)])).toString();
  return send<T>("GET", addressOf(path, ids) + (query && `?${query}`), undefined, null);
}

export const server = {
  builds: (asked: { find: string; before: number | null }) =>
    listed<Schemas["BuildsOut"]>("/api/builds", {}, asked),
  build: (build_id: number) => call<Build>("GET", "/api/builds/{build_id}", { build_id }),
  bin: () => call<Schemas["BinOut"]>("GET", "/api/bin"),
  putAway: (notice_id: number) => call<null>("DELETE", "/api/notices/{notice_id}", { notice_id }),
  design: (design_id: number) => call<Revision>("GET", "/api/designs/{design_id}", { design_id }),
  revisions: (design_id: number, before: number | null) =>
    listed<Schemas["HistoryOut"]>("/api/designs/{design_id}/revisions", { design_id }, { before }),
  revision: (design_id: number, number: number) =>
    call<Revision>("GET", "/api/designs/{design_id}/revisions/{number}", { design_id, number }),
  truck: (build_id: number) => call<Schemas["TruckOut"]>("GET", "/api/builds/{build_id}/truck", { build_id }),
  stations: (body: Schemas["StationsIn"], signal?: AbortSignal) =>
    call<Schemas["Station"][]>("POST", "/api/stations", {}, body, signal),
  since: (design_id: number) =>
    call<Schemas["SinceOut"]>("GET", "/api/designs/{design_id}/since", { design_id }),
  register: () => call<Schemas["RegisterOut"]>("GET", "/api/register"),
  effects: (body: Schemas["EffectsIn"], signal?: AbortSignal) =>
    call<Record<string, Schemas["Effect"][]>>("POST", "/api/effects", {}, body, signal),
  cures: (body: Schemas["CuresIn"], signal?: AbortSignal) =>
    call<Schemas["Cure"][]>("POST", "/api/cures", {}, body, signal),
  slack: (body: Schemas["SlackIn"], signal?: AbortSignal) =>
    call<Schemas["Slack"][]>("POST", "/api/slack", {}, body, signal),
  school: (body: Schemas["SchoolIn"], signal?: AbortSignal) =>
    call<Schemas["SchoolOut"]>("POST", "/api/school", {}, body, signal),
  settle: (body: Schemas["SettleIn"], signal?: AbortSignal) =>
    call<Schemas["Settled"] | null>("POST", "/api/settle", {}, body, signal),
  pull: (body: Schemas["PullIn"]) => call<Schemas["Pulled"]>("POST", "/api/pull", {}, body),
  converge: (body: Schemas["ConvergeIn"]) => call<Schemas["Hole"][]>("POST", "/api/converge", {}, body),
  add: (body: Schemas["AdditionIn"]) => call<Schemas["AddedOut"]>("POST", "/api/add", {}, body),
  typicalJobs: (body: Schemas["JobsIn"]) => call<Schemas["Job"][]>("POST", "/api/truck/jobs", {}, body),
  layout: (body: Schemas["LayoutIn"]) => call<Schemas["LayoutOut"]>("POST", "/api/layout", {}, body),
  clear: (body: Schemas["ClearIn"], signal?: AbortSignal) =>
    call<Schemas["ClearOut"]>("POST", "/api/clear", {}, body, signal),
  places: (body: Schemas["PlacesIn"], signal?: AbortSignal) =>
    call<Schemas["Ranked"][]>("POST", "/api/places", {}, body, signal),
  room: (body: Schemas["RoomIn"], signal?: AbortSignal) =>
    call<Schemas["RoomOut"]>("POST", "/api/room", {}, body, signal),
  corners: (body: Schemas["CornersIn"], signal?: AbortSignal) =>
    call<Schemas["CornersOut"]>("POST", "/api/corners", {}, body, signal),
  shockPlaces: (body: Schemas["ShockPlacesIn"], signal?: AbortSignal) =>
    call<Schemas["Cure"][]>("POST", "/api/shocks/places", {}, body, signal),
  runPull: (body: Schemas["CornerPullIn"]) =>
    call<Schemas["CornerPulled"]>("POST", "/api/runs/pull", {}, body),
  runEffects: (body: Schemas["CornerEffectsIn"], signal?: AbortSignal) =>
    call<Schemas["Effect"][]>("POST", "/api/runs/effects", {}, body, signal),
  turnPinion: (body: Schemas["TurnIn"], signal?: AbortSignal) =>
    call<Schemas["TurnOut"]>("POST", "/api/shaft/turn", {}, body, signal),
  map: (body: Schemas["MapIn"], signal?: AbortSignal) =>
    call<Schemas["MapOut"]>("POST", "/api/map", {}, body, signal),
  schools: (body: Schemas["InWords"], signal?: AbortSignal) =>
    call<Schemas["Variant"][]>("POST", "/api/schools", {}, body, signal),
  joints: (body: Schemas["OfDocument"], signal?: AbortSignal) =>
    call<Schemas["JointsOut"]>("POST", "/api/joints", {}, body, signal),
  hand: (body: Schemas["InWords"], signal?: AbortSignal) =>
    call<Schemas["HandCheck"]>("POST", "/api/hand", {}, body, signal),
  complaints: (body: Schemas["OfDocument"], signal?: AbortSignal) =>
    call<Schemas["Explained"][]>("POST", "/api/complaints", {}, body, signal),
  bring: (body: Schemas["BringIn"]) => call<Schemas["BroughtOut"]>("POST", "/api/bring", {}, body),
  copyOnto: (body: Schemas["CopyIn"]) => call<Schemas["CopiedOut"]>("POST", "/api/copy", {}, body),
  gaps: (body: Schemas["InPose"], signal?: AbortSignal) =>
    call<Schemas["Gap"][]>("POST", "/api/gaps", {}, body, signal),
  instruments: (signal?: AbortSignal) =>
    call<Schemas["InstrumentsOut"]>("GET", "/api/instruments", {}, undefined, signal),
  readInstrument: (body: Schemas["ReadIn"]) =>
    call<Schemas["ReadOut"]>("POST", "/api/instruments/read", {}, body),
  zeroGauge: (body: Schemas["ZeroIn"]) => call<null>("POST", "/api/instruments/zero", {}, body),
  cutting: () => call<Schemas["CuttingOut"]>("GET", "/api/cutting"),
  quoteCutting: (design_id: number, body: Schemas["ToCutIn"]) =>
    call<Schemas["Quote"]>("POST", "/api/designs/{design_id}/cutting", { design_id }, body),
  orderCutting: (body: Schemas["CuttingJobIn"]) =>
    call<Schemas["State"]>("POST", "/api/cutting/order", {}, body),
  cuttingState: (body: Schemas["CuttingJobIn"]) =>
    call<Schemas["State"]>("POST", "/api/cutting/state", {}, body),
  baseline: (body: Schemas["BaselineIn"], signal?: AbortSignal) =>
    call<Schemas["BaselineOut"]>("POST", "/api/baseline", {}, body, signal),
  newHoles: (body: Schemas["NewHolesIn"], signal?: AbortSignal) =>
    call<Schemas["NewHolesOut"]>("POST", "/api/new-holes", {}, body, signal),
  beside: (body: Schemas["BesideIn"], signal?: AbortSignal) =>
    call<Schemas["Beside"]>("POST", "/api/beside", {}, body, signal),
  outcomes: (body: Schemas["OutcomesIn"], signal?: AbortSignal) =>
    call<Schemas["Outcomes"]>("POST", "/api/outcomes", {}, body, signal),
  loads: (body: Schemas["LoadsIn"], signal?: AbortSignal) =>
    call<Schemas["LoadsOut"]>("POST", "/api/loads", {}, body, signal),
  cutSince: (body: Schemas["CutSinceIn"], signal?: AbortSignal) =>
    call<Schemas["CutSinceOut"]>("POST", "/api/cut/since", {}, body, signal),
  nestedSheet: (body: Schemas["SheetIn"]) => call<Schemas["SheetOut"]>("POST", "/api/cut/sheet", {}, body),
  holeToTry: (body: Schemas["FeltIn"], signal?: AbortSignal) =>
    call<Schemas["HoleToTry"][]>("POST", "/api/hole-to-try", {}, body, signal),
  fitFile: (body: Schemas["FitIn"]) => call<Schemas["FileOut"]>("POST", "/api/fit-file", {}, body),
  bringFit: (body: Schemas["BringFitIn"]) =>
    call<Schemas["FitBroughtOut"]>("POST", "/api/fit-file/bring", {}, body),
  onWeight: (body: Schemas["FitIn"], signal?: AbortSignal) =>
    call<Schemas["OnWeight"]>("POST", "/api/on-weight", {}, body, signal),
  plan: (body: Schemas["PlanIn"], signal?: AbortSignal) =>
    call<Schemas["Plan"]>("POST", "/api/plan", {}, body, signal),
  weldOrder: (body: Schemas["WeldIn"], signal?: AbortSignal) =>
    call<Schemas["WeldStep"][]>("POST", "/api/weld-order", {}, body, signal),
  tubeThatHolds: (body: Schemas["TubeIn"], signal?: AbortSignal) =>
    call<Schemas["Holds"] | null>("POST", "/api/loads/tube", {}, body, signal),
  markOut: (body: Schemas["MarkIn"], signal?: AbortSignal) =>
    call<Schemas["MarkOut"]>("POST", "/api/mark-out", {}, body, signal),
  bolts: (body: Schemas["BoltsIn"], signal?: AbortSignal) =>
    call<Schemas["BoltsOut"]>("POST", "/api/bolts", {}, body, signal),
  cut: (body: Schemas["CutIn"], signal?: AbortSignal) =>
    call<Schemas["CutOut"]>("POST", "/api/cut", {}, body, signal),
  fit: (body: Schemas["FitIn"], signal?: AbortSignal) =>
    call<Schemas["FitOut"]>("POST", "/api/fit", {}, body, signal),
  /** Long work about a design; its files are begun at the design itself, which knows what is stored. */
  beginWork: (path: LongPath, id: number, body: unknown) =>
    path === "shop_files"
      ? call<Schemas["BegunOut"]>("POST", "/api/designs/{design_id}/shop", { design_id: id }, body)
      : call<Schemas["BegunOut"]>("POST", `/api/work/${path}`, {}, body),
  lookAtWork: <T>(path: LongPath, number: string) =>
    call<WorkSoFar<T>>("GET", `/api/work/${path}/{number}`, { number }),
  endWork: (path: LongPath, number: string) => call<null>("DELETE", `/api/work/${path}/{number}`, { number }),
  look: (question: Schemas["InPose"]) => call<Schemas["LookOut"]>("POST", "/api/look", {}, question),
  cycle: (question: Schemas["InPose"]) => call<CycleAnswer>("POST", "/api/cycle", {}, question),
};

/** The server is there and has no time, or the answer took too long: worth asking again. */
export const BUSY = 503;

/** Why a request failed, in words for a person. */
export const reasonOf = (error: unknown): string =>
  typeof error === "object" && error !== null && "message" in error && typeof error.message === "string"
    ? error.message
    : "The server answered with something unreadable.";

export const NO_SERVER = "The server does not answer. Start it again; this page goes on when it is back.";
