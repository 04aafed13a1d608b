/** Steps of two hands on one document. */

import type { Change, Step } from "../document/steps";

/** Whether two steps change the same figure, or one a part of what the other replaces. */
export function overlaps(one: Step, other: Step): boolean {
  const within = (a: Change, b: Change) => a.path.every((step, n) => b.path[n] === step);
  return one.some((a) => other.some((b) => within(a, b) || within(b, a)));
}
