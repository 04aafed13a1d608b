/** Moving mounts by hand and by key: a drag previews, letting go edits. The same in every area. */

import { useCallback, useRef, useState } from "react";

import { type Document, movedTogether, type Point, type Spot, spotsOf } from "../document/document";
import { holesOf, nearestHole, nextHole } from "../document/room";
import { caught } from "../floor/guides";
import type { Pace, Phase } from "../floor/Handle";
import { increment, snapped } from "../units/tape";
import { useDesign } from "./design";
import { usePreferences } from "./preferences";
import { useSelection } from "./selection";

/** The mounts that move when this one is taken hold of: all that are chosen, if it is one of them. */
function takenWith(document: Document, mount: Spot): Spot[] {
  const { chosen } = useSelection.getState();
  return chosen.includes(mount.key) ? spotsOf(document).filter((m) => chosen.includes(m.key)) : [mount];
}

interface Taken {
  document: Document;
  mounts: Spot[];
}

/** Where a drag by so much has brought the mounts: in shop increments, a lone one caught by what it lines up with. */
function dragged(from: Taken, taken: Spot, by: Point, pace: Pace, reach: number): Document {
  const step = increment(usePreferences.getState().units, pace);
  let at = taken.at.map((v, i) => snapped(v, by[i]!, step)) as Point;
  const axes = [0, 1, 2].filter((i) => Math.abs(by[i]!) >= step / 2);
  const holes = from.mounts.length === 1 && pace !== "fine" ? holesOf(from.document, taken) : [];
  if (holes.length > 0) at = axes.length > 0 ? nearestHole(holes, at) : taken.at;
  else if (pace === "shop" && from.mounts.length === 1)
    at = caught(from.document, taken, at, Math.min(reach, step), axes);
  return movedTogether(from.document, from.mounts, at.map((v, i) => v - taken.at[i]!) as Point);
}

/** Dragging from the document as it was when taken hold of. */
export function useDragging() {
  const base = useRef<Taken | null>(null);
  const [under, setUnder] = useState<string | null>(null);
  const onDrag = useCallback((taken: Spot, by: Point, pace: Pace, phase: Phase, reach: number) => {
    const { document: shown, preview, edit } = useDesign.getState();
    if (phase === "start") base.current = shown && { document: shown, mounts: takenWith(shown, taken) };
    const from = base.current;
    if (!from || phase === "start") return;
    const next = dragged(from, taken, by, pace, reach);
    if (phase === "move") {
      setUnder(taken.key);
      preview(next);
      return;
    }
    base.current = null;
    setUnder(null);
    edit(phase === "end" ? next : from.document, from.document);
  }, []);
  return { onDrag, dragged: under };
}

export const onNudge = (taken: Spot, by: Point, pace: Pace) => {
  const { document: shown, edit } = useDesign.getState();
  const step = increment(usePreferences.getState().units, pace);
  if (!shown) return;
  const mounts = takenWith(shown, taken);
  const holes = mounts.length === 1 && pace !== "fine" ? holesOf(shown, taken) : [];
  const next = holes.length > 0 ? nextHole(holes, taken.at, by) : null;
  if (holes.length > 0 && !next) return; // no hole that way: with Shift it leaves the row
  const moved = next ? next.map((v, i) => v - taken.at[i]!) : by.map((v) => v * step);
  edit(movedTogether(shown, mounts, moved as Point));
};
