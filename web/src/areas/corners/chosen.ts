/** Which part of the corners is chosen: that whose point is. */

import { barOf, strutsOf } from "../../document/corners";
import { type Document, spotsOf } from "../../document/document";
import { useSelection } from "../../state/selection";

export function useChosenPart(document: Document): string | null {
  const chosen = useSelection((s) => s.chosen[0]);
  const part = spotsOf(document).find((spot) => spot.key === chosen)?.part ?? null;
  const own = [...strutsOf(document).map(({ strut }) => strut.id), ...(barOf(document) ? ["anti-roll"] : [])];
  return part !== null && own.includes(part) ? part : null;
}
