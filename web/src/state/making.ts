/** What is made, renamed, deleted and brought back: each by way of the outbox, and answered as the server answers. */

import { addressOf, type Answer, type Build, type Revision, type Schemas } from "../api/client";
import { ask } from "./outbox";

/** What is said while an operation has to wait. */
export const HELD =
  "The server does not answer: it is held on this device, and done when the server is back.";

type Given = Parameters<typeof ask>[0];

async function made<T>(given: Given): Promise<Answer<T>> {
  const said = await ask(given);
  return said === "held" ? { error: { message: HELD }, status: 0 } : (said as Answer<T>);
}

const ofBuild = (id: number) => `build ${id}`;
const ofDesign = (id: number) => `design ${id}`;

interface Based {
  id: number;
  name: string;
  /** The build’s number, or the design’s revision, that it was looked at. */
  base: number;
}

export const making = {
  build: (body: Schemas["BuildIn"]) =>
    made<Build>({ queue: "builds", method: "POST", url: "/api/builds", words: `the build ${body.name}`, body: { ...body } }),
  renameBuild: ({ id, name, base }: Based, body: Schemas["BuildIn"]) =>
    made<Build>({
      queue: ofBuild(id), method: "PUT", url: addressOf("/api/builds/{build_id}", { build_id: id }),
      words: `${name} renamed`, base, body: { ...body },
    }),
  deleteBuild: ({ id, name, base }: Based) =>
    made<null>({
      queue: ofBuild(id), method: "DELETE", url: addressOf("/api/builds/{build_id}", { build_id: id }),
      words: `${name} deleted`, base,
    }),
  restoreBuild: (id: number, name: string) =>
    made<Build>({
      queue: ofBuild(id), method: "POST", url: addressOf("/api/builds/{build_id}/restore", { build_id: id }),
      words: `${name} brought back`,
    }),
  importDesign: (build: number, file: Schemas["FileIn"], name: string) =>
    made<Revision>({
      queue: ofBuild(build), method: "POST", url: addressOf("/api/builds/{build_id}/designs", { build_id: build }),
      words: name, body: { ...file },
    }),
  startDesign: (build: number, start: Schemas["StartIn"]) =>
    made<Revision>({
      queue: ofBuild(build), method: "POST", url: addressOf("/api/builds/{build_id}/starts", { build_id: build }),
      words: start.name, body: { ...start },
    }),
  addAlternative: (id: number, body: Schemas["AlternativeIn"]) =>
    made<Revision>({
      queue: ofDesign(id), method: "POST", url: addressOf("/api/designs/{design_id}/alternatives", { design_id: id }),
      words: body.name, body: { ...body },
    }),
  renameDesign: ({ id, name, base }: Based, to: string) =>
    made<Revision>({
      queue: ofDesign(id), method: "PUT", url: addressOf("/api/designs/{design_id}/name", { design_id: id }),
      words: `${name} renamed`, base, body: { name: to },
    }),
  deleteDesign: ({ id, name, base }: Based) =>
    made<null>({
      queue: ofDesign(id), method: "DELETE", url: addressOf("/api/designs/{design_id}", { design_id: id }),
      words: `${name} deleted`, base,
    }),
  restoreDesign: (id: number, name: string) =>
    made<Revision>({
      queue: ofDesign(id), method: "POST", url: addressOf("/api/designs/{design_id}/restore", { design_id: id }),
      words: `${name} brought back`,
    }),
}; // prettier-ignore
