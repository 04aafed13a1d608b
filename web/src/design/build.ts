/** The build that the open design belongs to: the bands it is judged by where they differ from the house's. */

import { create } from "zustand";

import { type Schemas, server } from "../api/client";
import { useDesign } from "./store";

export type Bands = Schemas["RevisionOut"]["bands"];

interface OpenBuild {
  id: number | null;
  bands: Bands;
  trouble: string | null;
  /** Judge a figure by another band from now on, in all designs of this build; null: by the house's again. */
  setBand: (figure: string, band: readonly [number | null, number | null] | null) => Promise<void>;
}

export const useBuild = create<OpenBuild>()((set, get) => ({
  id: null,
  bands: {},
  trouble: null,
  setBand: async (figure, band) => {
    const { id, bands: before } = get();
    if (id === null) return;
    const others = Object.fromEntries(Object.entries(before).filter(([name]) => name !== figure));
    const bands = band
      ? { ...others, [figure]: [band[0], band[1]] as [number | null, number | null] }
      : others;
    set({ bands, trouble: null });
    try {
      const { data } = await server.setBands(id, { bands });
      if (!data) set({ bands: before, trouble: "The band was refused; the one before it stands." });
    } catch {
      set({ bands: before, trouble: "The server does not answer; the band before it stands." });
    }
  },
}));

useDesign.subscribe(({ stored }, before) => {
  if (stored && stored !== before.stored && (stored.build !== useBuild.getState().id || !before.stored))
    useBuild.setState({ id: stored.build, bands: stored.bands, trouble: null });
});
