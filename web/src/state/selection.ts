/** What is chosen, in all areas: mounts, a figure, a finding. Nothing of it is stored with the design. */

import { create } from "zustand";

import type { Finding } from "../api/client";
import { useCase } from "./case";
import { takeTyped } from "./said";
import { toPose } from "./scrub";

interface Selection {
  chosen: string[];
  /** A registered figure that is read; by its id. */
  reading: string | null;
  finding: string | null;
  converging: boolean;
  choose: (key: string, also?: boolean) => void;
  read: (reading: string | null) => void;
  find: (finding: string | null) => void;
  converge: (on: boolean) => void;
  /** No mount is chosen any more. */
  unchoose: () => void;
}

const NOTHING = { reading: null, finding: null, converging: false };

export const useSelection = create<Selection>()((set, get) => ({
  chosen: [],
  ...NOTHING,
  choose: (key, also = false) => {
    takeTyped();
    const { chosen } = get();
    if (!also) set({ chosen: [key] });
    else set({ chosen: chosen.includes(key) ? chosen.filter((k) => k !== key) : [...chosen, key] });
  },
  read: (reading) => set({ ...NOTHING, reading }),
  find: (finding) => set({ ...NOTHING, finding }),
  converge: (converging) => set({ ...NOTHING, converging }),
  unchoose: () => {
    takeTyped();
    set({ chosen: [] });
  },
}));

export const clearSelection = () => useSelection.setState({ chosen: [], ...NOTHING });

/** Choose a finding, and go to the very pose that was judged, where it is worst, and its load case. */
export function goTo(finding: Finding): void {
  useSelection.getState().find(finding.id);
  const { travel, articulation, case: loaded } = finding.place;
  if (loaded) useCase.setState({ id: loaded });
  if (typeof travel === "number" && typeof articulation === "number") toPose({ travel, articulation });
}

const GRAVITY = ["stop", "fix", "consider"] as const;

/** The findings that ask for something, in their order. */
export const pressing = (findings: Finding[]): Finding[] =>
  findings.filter((f) => (GRAVITY as readonly string[]).includes(f.severity));
