/** Steps of work, to take back and to take again: what changed, each value by its path. Kept on this device. */

type Path = (string | number)[];

/** One value that changed; a missing end means that there was, or is, nothing there. */
export interface Change {
  path: Path;
  from?: unknown;
  to?: unknown;
}

export type Step = Change[];

const isTree = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null;

/** What it takes to get from one document to another. */
export function stepBetween(from: unknown, to: unknown, path: Path = []): Step {
  if (Object.is(from, to)) return [];
  if (isTree(from) && isTree(to) && Array.isArray(from) === Array.isArray(to)) {
    const sameLength = !Array.isArray(from) || from.length === (to as unknown as unknown[]).length;
    if (sameLength) {
      const keys = [...new Set([...Object.keys(from), ...Object.keys(to)])];
      return keys.flatMap((key) =>
        stepBetween(from[key], to[key], [...path, Array.isArray(from) ? Number(key) : key]),
      );
    }
  }
  return [{ path, ...(from === undefined ? {} : { from }), ...(to === undefined ? {} : { to }) }];
}

/** The document with a step taken back or taken again; everything that did not change is shared. */
export const stepped = <T>(document: T, step: Step, way: "back" | "again"): T =>
  step.reduce((at, change) => put(at, change.path, way === "back" ? change.from : change.to), document);

function put<T>(value: T, path: Path, to: unknown): T {
  const [head, ...rest] = path;
  if (head === undefined) return to as T;
  if (!isTree(value)) throw new Error("there is nothing there any more");
  const inner = rest.length === 0 ? to : put((value as Record<string | number, unknown>)[head], rest, to);
  if (Array.isArray(value)) return value.map((v: unknown, n) => (n === head ? inner : v)) as T;
  const others = Object.entries(value).filter(([key]) => key !== head);
  const kept = Object.entries(value).map(([key, v]) => [key, key === head ? inner : v] as const);
  return Object.fromEntries(
    inner === undefined ? others : head in value ? kept : [...kept, [head, inner]],
  ) as T;
}

export interface Steps {
  past: Step[];
  future: Step[];
}

const keyOf = (design: number) => `oak-lever.steps.${design}`;

export function readSteps(design: number): Steps {
  try {
    const kept = JSON.parse(localStorage.getItem(keyOf(design)) ?? "null") as Steps | null;
    return kept && Array.isArray(kept.past) && Array.isArray(kept.future) ? kept : { past: [], future: [] };
  } catch {
    return { past: [], future: [] };
  }
}

/** Keep the steps over a reload; should this device's room run out, the oldest go first. */
export function keepSteps(design: number, steps: Steps): void {
  let { past } = steps;
  for (;;) {
    try {
      localStorage.setItem(keyOf(design), JSON.stringify({ past, future: steps.future }));
      return;
    } catch {
      if (past.length === 0) return; // storage is forbidden: they last as long as the page
      past = past.slice(Math.ceil(past.length / 2));
    }
  }
}
