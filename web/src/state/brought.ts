/** What was read from a file of another program and is not taken yet: its shapes, and where they are being placed. */

import { create } from "zustand";

import type { Schemas } from "../api/client";
import { middleOf, movedSolid, type Solid, turnedSolid } from "../document/solids";

type Three = readonly [number, number, number];
interface Shape {
  name: string;
  solid: Solid;
}

interface Pending {
  shapes: readonly Shape[];
  /** How it was simplified, and what was left out. */
  said: readonly string[];
  /** How far it is moved from where the file has it, mm, and turned about its middle, degrees. */
  at: Three;
  turn: Three;
  show: (brought: Schemas["BroughtOut"]) => void;
  put: (change: { at?: readonly number[]; turn?: readonly number[] }) => void;
  drop: () => void;
  placed: () => Shape[];
}

const STILL: Three = [0, 0, 0];

export const useBrought = create<Pending>()((set, get) => ({
  shapes: [],
  said: [],
  at: STILL,
  turn: STILL,
  show: ({ shapes, said }) => set({ shapes: shapes as unknown as Shape[], said, at: STILL, turn: STILL }),
  put: (change) => set(change as Partial<Pending>),
  drop: () => set({ shapes: [], at: STILL, turn: STILL }),
  placed: () => placedAt(get()),
}));

/** The shapes as they are placed: turned together about their common middle, then moved. */
export function placedAt({ shapes, at, turn }: Pick<Pending, "shapes" | "at" | "turn">): Shape[] {
  const middles = shapes.map((one) => middleOf(one.solid));
  const about = [0, 1, 2].map(
    (i) => middles.reduce((sum, p) => sum + p[i]!, 0) / Math.max(middles.length, 1),
  );
  return shapes.map((one) => ({
    ...one,
    solid: movedSolid(turnedSolid(one.solid, turn, about), at),
  }));
}
