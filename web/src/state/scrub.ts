/** Where the scrubbers stand, in all areas: travel in mm, articulation in degrees. */

import { create } from "zustand";

import type { Document } from "../document/document";
import type { Deg, Mm } from "../units/brands";

export interface Scrub {
  travel: Mm;
  articulation: Deg;
}

export const useScrub = create<Scrub>()(() => ({ travel: 0, articulation: 0 }));

export const toTravel = (travel: Mm) => useScrub.setState({ travel });
export const toTwist = (articulation: Deg) => useScrub.setState({ articulation });
export const toPose = (pose: Scrub) => useScrub.setState(pose);

/** What the scrubbers ask for, within the design's own range. */
export function scrubbed(document: Document, scrub: Scrub): Scrub {
  const { bump, droop, articulation } = document.travel;
  return {
    travel: Math.min(Math.max(scrub.travel, -droop), bump),
    articulation: Math.min(Math.max(scrub.articulation, -articulation), articulation),
  };
}
