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

type Ids = Record<string, number>;

async function call<T>(method: string, path: keyof paths, ids: Ids = {}, body?: unknown): Promise<Answer<T>> {
  const url = Object.entries(ids).reduce<string>(
    (at, [name, id]) => at.replace(`{${name}}`, String(id)),
    path,
  );
  const response = await fetch(url, {
    method,
    headers: body === undefined ? {} : { "Content-Type": "application/json" },
    body: body === undefined ? null : JSON.stringify(body),
  });
  const said: unknown = response.status === 204 ? null : await response.json().catch(() => null);
  return response.ok
    ? { data: said as T, status: response.status }
    : { error: said, status: response.status };
}

export const server = {
  builds: () => call<Build[]>("GET", "/api/builds"),
  createBuild: (build: Schemas["BuildIn"]) => call<Build>("POST", "/api/builds", {}, build),
  importDesign: (build_id: number, file: Schemas["FileIn"]) =>
    call<Revision>("POST", "/api/builds/{build_id}/designs", { build_id }, file),
  startDesign: (build_id: number, start: Schemas["StartIn"]) =>
    call<Revision>("POST", "/api/builds/{build_id}/starts", { build_id }, start),
  design: (design_id: number) => call<Revision>("GET", "/api/designs/{design_id}", { design_id }),
  deleteDesign: (design_id: number) => call<null>("DELETE", "/api/designs/{design_id}", { design_id }),
  restoreDesign: (design_id: number) =>
    call<Revision>("POST", "/api/designs/{design_id}/restore", { design_id }),
  saveRevision: (design_id: number, edit: Schemas["EditIn"]) =>
    call<Revision>("POST", "/api/designs/{design_id}/revisions", { design_id }, edit),
  revisions: (design_id: number) =>
    call<Schemas["RevisionLine"][]>("GET", "/api/designs/{design_id}/revisions", { design_id }),
  revision: (design_id: number, number: number) =>
    call<Revision>("GET", "/api/designs/{design_id}/revisions/{number}", { design_id, number }),
  addAlternative: (design_id: number, body: Schemas["AlternativeIn"]) =>
    call<Revision>("POST", "/api/designs/{design_id}/alternatives", { design_id }, body),
  truck: (build_id: number) => call<Schemas["TruckOut"]>("GET", "/api/builds/{build_id}/truck", { build_id }),
  saveTruck: (build_id: number, edit: Schemas["TruckEditIn"]) =>
    call<Schemas["TruckOut"]>("POST", "/api/builds/{build_id}/truck/revisions", { build_id }, edit),
  since: (design_id: number) =>
    call<Schemas["SinceOut"]>("GET", "/api/designs/{design_id}/since", { design_id }),
  register: () => call<Schemas["RegisterOut"]>("GET", "/api/register"),
  effects: (body: Schemas["EffectsIn"]) =>
    call<Record<string, Schemas["Effect"][]>>("POST", "/api/effects", {}, body),
  cures: (body: Schemas["CuresIn"]) => call<Schemas["Cure"][]>("POST", "/api/cures", {}, body),
  slack: (body: Schemas["SlackIn"]) => call<Schemas["Slack"][]>("POST", "/api/slack", {}, body),
  school: (body: Schemas["SchoolIn"]) => call<Schemas["SchoolOut"]>("POST", "/api/school", {}, body),
  settle: (body: Schemas["SettleIn"]) => call<Schemas["Settled"] | null>("POST", "/api/settle", {}, body),
  pull: (body: Schemas["PullIn"]) => call<Schemas["Pulled"]>("POST", "/api/pull", {}, body),
  converge: (body: Schemas["ConvergeIn"]) => call<Schemas["Hole"][]>("POST", "/api/converge", {}, body),
  cycle: (question: Schemas["CycleIn"]) => call<CycleAnswer>("POST", "/api/cycle", {}, question),
};

/** Why a request failed, in words for a person. */
export const reasonOf = (error: unknown): string =>
  typeof error === "object" && error !== null && "message" in error && typeof error.message === "string"
    ? error.message
    : "The server answered with something unreadable.";

export const NO_SERVER = "The server does not answer. Start it again; this page goes on when it is back.";
