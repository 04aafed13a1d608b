/** What this person prefers on this device: units and theme. */

import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { Units } from "../units/tape";

export type Theme = "light" | "dark";

interface Preferences {
  units: Units;
  theme: Theme;
  /** Who takes readings on this device. */
  by: string;
  setUnits: (units: Units) => void;
  setTheme: (theme: Theme) => void;
  setBy: (by: string) => void;
}

const preferred = (): Theme =>
  typeof matchMedia === "function" && matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";

export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      units: "in16",
      theme: preferred(),
      by: "",
      setUnits: (units) => set({ units }),
      setTheme: (theme) => set({ theme }),
      setBy: (by) => set({ by }),
    }),
    { name: "oak-lever.preferences" },
  ),
);
