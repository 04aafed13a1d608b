/** Which design of an axle is to be built: marked on the truck with its reason, who marked it, and when. */

import type { Document } from "../document/document";
import { type TruckDocument, useTruck } from "./truck";

export interface Choice {
  design: string;
  reason: string;
  by?: string;
  at?: string;
}

type Choices = Partial<Record<"front" | "rear", Choice>>;

/** The one that is to be built of this axle; null while nobody has said. */
export const choiceOf = (truck: TruckDocument | null | undefined, { axle }: Document): Choice | null =>
  (truck?.choices as Choices | null | undefined)?.[axle.end] ?? null;

/** The truck with this design marked; null takes the mark off. */
export const withChoice = (
  truck: TruckDocument,
  { axle }: Document,
  choice: Choice | null,
): TruckDocument => {
  const others = Object.entries((truck.choices ?? {}) as Choices).filter(([end]) => end !== axle.end);
  const choices = Object.fromEntries(choice ? [...others, [axle.end, choice]] : others);
  return { ...truck, choices } as TruckDocument;
};

export function useChoice(document: Document): Choice | null {
  const truck = useTruck((s) => s.truck?.document);
  return choiceOf(truck, document);
}
