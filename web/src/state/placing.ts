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
import { type Offer, useSaid } from "./said";

export interface Question {
  words: string;
  offers: Offer[];
}

/** How a pair was answered for, by its design and the names of both: whether one moves the other. For as long as the page is open. */
const answered = new Map<string, "both" | "one">();

const HIGH_MM = 2500;

/** Put a mount there; or the question that has to be answered first, whose offers do it. */
export function place(key: string, at: Point): Question | null {
  const standing = useDesign.getState().document;
  const was = standing && mountOf(standing, key)?.at;
  if (!was || same(was, at)) return null;
  // what is answered later is done to the design as it stands then, and to the coordinates that were typed only
  const onto = (now: Point) => at.map((v, i) => (v === was[i] ? now[i]! : v)) as Point;
  const odd = oddPlace(standing, at);
  if (!odd) return placePaired(key, onto);
  const act = () => {
    const next = placePaired(key, onto);
    if (next) useSaid.getState().say(next.words, next.offers);
  };
  return { words: odd, offers: [{ words: "Put it there", act }] };
}

const mountOf = (document: Document, key: string): Spot | undefined =>
  spotsOf(document).find((m) => m.key === key);

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
function placePaired(key: string, onto: (now: Point) => Point): Question | null {
  const { document, stored } = useDesign.getState();
  const mount = document && mountOf(document, key);
  if (!mount) return null;
  const partner = partnerOf(document, mount);
  const pair = [stored?.design, mount.name, partner?.name].join();
  const how = !partner || mount.at[1] >= 0 ? "both" : answered.get(pair);
  if (how) return edit(key, onto, how);
  const answer = (given: "both" | "one") => () => {
    answered.set(pair, given);
    edit(key, onto, given);
  };
  return {
    words: "Left and right stand together.",
    offers: [
      { words: "Move both", act: answer("both") },
      { words: "Part them: only the right", act: answer("one") },
    ],
  };
}

function edit(key: string, onto: (now: Point) => Point, how: "both" | "one"): null {
  const { document, edit: put } = useDesign.getState();
  const mount = document && mountOf(document, key);
  if (!mount) return null;
  const at = onto(mount.at);
  put(
    how === "both" ? moved(document, mount, at) : withMount(withPairing(document, mount, false), mount, at),
  );
  return null;
}

export const forgetAnswers = () => answered.clear();
