/** Every name the page shows, from the core's own register; fetched once, before anything is drawn. */

import { create } from "zustand";

import { type Schemas, server } from "./client";

export type Register = Schemas["RegisterOut"];
export type Figure = Schemas["Figure"];

export const useRegister = create<{ register: Register | null; lost: boolean }>()(() => ({
  register: null,
  lost: false,
}));

/** The register, where nothing is drawn without it. */
export function theRegister(): Register {
  const { register } = useRegister.getState();
  if (!register) throw new Error("the register is not there yet");
  return register;
}

const RETRY_MS = 1500;
let asking = false;

/** Fetch it, again and again until the server answers. */
export async function fetchRegister(): Promise<void> {
  if (asking || useRegister.getState().register) return;
  asking = true;
  const { data } = await server.register().catch(() => ({ data: undefined }));
  asking = false;
  useRegister.setState(data ? { register: data, lost: false } : { lost: true });
  if (!data) setTimeout(() => void fetchRegister(), RETRY_MS);
}

/** A figure by its id, if it is registered. */
export const figureOf = (id: string): Figure | undefined => theRegister().figures.find((f) => f.id === id);

/** What can be added to a design in an area. */
export const additionsTo = (area: Schemas["Addition"]["area"]): Schemas["Addition"][] =>
  theRegister().additions.filter((one) => one.area === area);
