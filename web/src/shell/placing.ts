/** A place that was typed: taken at once, or asked about first where it is hardly meant, or where it would part a pair. */

import {
  type Document,
  moved,
  partnerOf,
  type Point,
  type Spot,
  spotsOf,
  withMount,
  withPairing,
} from "../document/document";
import { useDesign } from "./design";
import type { Offer } from "./said";

export interface Question {
  words: string;
  offers: Offer[];
}

/** How a pair was answered for, by the names of both: whether one moves the other. For as long as the page is open. */
const answered = new Map<string, "both" | "one">();

const HIGH_MM = 2500;

/** Put a mount there; or the question that has to be answered first, whose offers do it. */
export function place(key: string, at: Point): Question | null {
  const { document } = useDesign.getState();
  const mount = document && spotsOf(document).find((m) => m.key === key);
  if (!document || !mount || same(mount.at, at)) return null;
  const odd = oddPlace(document, at);
  if (!odd) return placePaired(document, mount, at);
  return {
    words: odd,
    offers: [{ words: "Put it there", act: () => act(placePaired(document, mount, at)) }],
  };
}

/** Once it was said to be meant, the pair is asked about by the next figure; this one moves both, as a drag does. */
function act(question: Question | null): void {
  question?.offers[0]?.act();
}

const same = (a: Point, b: Point): boolean => a.every((v, i) => v === b[i]);

/** What is odd about a place, in words: hardly meant, and so asked about. */
export function oddPlace(document: Document, [x, y, z]: Point): string | null {
  const { vehicle, axle } = document;
  if (z < 0) return "That is below the floor.";
  if (Math.abs(x) > vehicle.wheelbase || z > HIGH_MM || Math.abs(y) > axle.track)
    return "That is far off the truck.";
  return null;
}

/** A right-hand figure that differs from the left one: read off a truck whose sides differ, or meant for both? */
function placePaired(document: Document, mount: Spot, at: Point): Question | null {
  const partner = partnerOf(document, mount);
  const both = () => edit(moved(document, mount, at));
  if (!partner || mount.at[1] >= 0) return both();
  const one = () => edit(withMount(withPairing(document, mount, false), mount, at));
  const pair = [mount.name, partner.name].join();
  const known = answered.get(pair);
  if (known) return known === "both" ? both() : one();
  const answer = (how: "both" | "one", then: () => void) => () => {
    answered.set(pair, how);
    then();
  };
  return {
    words: "Left and right stand together.",
    offers: [
      { words: "Move both", act: answer("both", both) },
      { words: "Part them: only the right", act: answer("one", one) },
    ],
  };
}

function edit(document: Document): null {
  useDesign.getState().edit(document);
  return null;
}

export const forgetAnswers = () => answered.clear();
