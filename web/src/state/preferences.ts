/** What this person prefers on this device: units, theme, which view leads. */

import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { Units } from "../units/tape";

export type Theme = "light" | "dark";

interface Preferences {
  units: Units;
  theme: Theme;
  /** The view that stands first, with the others in projection to it. */
  lead: "side" | "top" | "rear";
  /** Who takes readings on this device. */
  by: string;
  setUnits: (units: Units) => void;
  setTheme: (theme: Theme) => void;
  setLead: (lead: "side" | "top" | "rear") => void;
  setBy: (by: string) => void;
}

const preferred = (): Theme =>
  typeof matchMedia === "function" && matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";

export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      units: "in16",
      theme: preferred(),
      lead: "side",
      by: "",
      setUnits: (units) => set({ units }),
      setTheme: (theme) => set({ theme }),
      setLead: (lead) => set({ lead }),
      setBy: (by) => set({ by }),
    }),
    { name: "oak-lever.preferences" },
  ),
);
