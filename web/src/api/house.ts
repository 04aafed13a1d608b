/** What can be chosen and judged, as the core has it; fetched once. */

import { useEffect } from "react";
import { create } from "zustand";

import { type Schemas, server } from "./client";

const useStore = create<{ house: Schemas["HouseOut"] | null }>()(() => ({ house: null }));
const RETRY_MS = 2000;
let asking = false;

async function fetchOnce(): Promise<void> {
  if (asking || useStore.getState().house) return;
  asking = true;
  const { data } = await server.house().catch(() => ({ data: undefined }));
  asking = false;
  if (data) useStore.setState({ house: data });
  else setTimeout(() => void fetchOnce(), RETRY_MS);
}

/** Uses, schools and judged figures; null until they are there. */
export function useHouse(): Schemas["HouseOut"] | null {
  useEffect(() => void fetchOnce(), []);
  return useStore((s) => s.house);
}
