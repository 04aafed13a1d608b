/** Steps of work, to take back and to take again: what changed, each value by its path. Kept on this device. */

/** From the top down: a key of a thing, an index of a list, or in a list of things with names the name of one. */
type Path = (string | number)[];

/**
 * One value that changed; a missing end means that there was, or is, nothing there. What came into a list of things
 * with names, or went from it, stood after the one named in `after` (null: it was the first; left out: at the end).
 */
export interface Change {
  path: Path;
  from?: unknown;
  to?: unknown;
  after?: string | null;
}

export type Step = Change[];

const isTree = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null;

/** What a thing in a list is known by: its id, else all that it is; null: not by anything, it is a bare value. */
const nameOf = (value: unknown): string | null => {
  if (!isTree(value) || Array.isArray(value)) return null;
  return typeof value["id"] === "string" ? value["id"] : JSON.stringify(value);
};

/** The names of a list’s things, in order; null where they are not each told apart by one. */
function namesOf(list: readonly unknown[]): string[] | null {
  const names = list.map(nameOf);
  return names.every((name) => name !== null) && new Set(names).size === names.length ? names : null;
}

/** What it takes to get from one document to another. */
export function stepBetween(from: unknown, to: unknown, path: Path = []): Step {
  if (Object.is(from, to)) return [];
  if (Array.isArray(from) && Array.isArray(to)) {
    const step = betweenLists(from, to, path);
    if (step) return step;
  } else if (isTree(from) && isTree(to) && !Array.isArray(from) && !Array.isArray(to)) {
    const keys = [...new Set([...Object.keys(from), ...Object.keys(to)])];
    return keys.flatMap((key) => stepBetween(from[key], to[key], [...path, key]));
  }
  return [{ path, ...(from === undefined ? {} : { from }), ...(to === undefined ? {} : { to }) }];
}

/**
 * Between two lists: thing by thing where they have names, so that two hands who add to one list, or change other
 * things in it, do not change the same; else value by value; null where that takes the whole list.
 */
function betweenLists(from: readonly unknown[], to: readonly unknown[], path: Path): Step | null {
  const known = [...from, ...to].every((value) => isTree(value) && typeof value["id"] === "string");
  if (from.length === to.length && !known)
    return from.flatMap((value, n) => stepBetween(value, to[n], [...path, n]));
  const [were, are] = [namesOf(from), namesOf(to)];
  if (!were || !are) return null;
  const stayed = were.filter((name) => are.includes(name));
  if (stayed.join("\n") !== are.filter((name) => were.includes(name)).join("\n")) return null; // put in another order
  const gone = from.flatMap((value, n) =>
    are.includes(were[n]!) ? [] : [{ path: [...path, were[n]!], from: value, after: were[n - 1] ?? null }],
  );
  const changed = stayed.flatMap((name) =>
    stepBetween(from[were.indexOf(name)], to[are.indexOf(name)], [...path, name]),
  );
  const last = are.findLastIndex((name) => were.includes(name));
  const come = to.flatMap((value, n) => {
    if (were.includes(are[n]!)) return [];
    const added = { path: [...path, are[n]!], to: value };
    return [n > last ? added : { ...added, after: are[n - 1] ?? null }]; // at the end: also of what others added
  });
  return [...gone.reverse(), ...changed, ...come]; // taken back in turn: each stands again after one that is there
}

/** The document with a step taken back or taken again; everything that did not change is shared. */
export const stepped = <T>(document: T, step: Step, way: "back" | "again"): T =>
  (way === "back" ? [...step].reverse() : step).reduce(
    (at, change) => put(at, change.path, way === "back" ? change.from : change.to, change.after),
    document,
  );

function put<T>(value: T, path: Path, to: unknown, after: string | null | undefined): T {
  const [head, ...rest] = path;
  if (head === undefined) return to as T;
  if (!isTree(value)) throw new Error("there is nothing there any more");
  if (Array.isArray(value) && typeof head === "string") return putNamed(value, head, rest, to, after) as T;
  const inner =
    rest.length === 0 ? to : put((value as Record<string | number, unknown>)[head], rest, to, after);
  if (Array.isArray(value)) return value.map((v: unknown, n) => (n === head ? inner : v)) as T;
  const others = Object.entries(value).filter(([key]) => key !== head);
  const kept = Object.entries(value).map(([key, v]) => [key, key === head ? inner : v] as const);
  return Object.fromEntries(
    inner === undefined ? others : head in value ? kept : [...kept, [head, inner]],
  ) as T;
}

/** A list with the thing of that name changed, gone, or come to stand after another: last, where that is gone. */
function putNamed(
  list: readonly unknown[],
  name: string,
  rest: Path,
  to: unknown,
  after: string | null | undefined,
): unknown[] {
  const at = list.findIndex((value) => nameOf(value) === name);
  if (rest.length > 0) {
    if (at < 0) throw new Error("there is nothing there any more");
    return list.map((value, n) => (n === at ? put(value, rest, to, after) : value));
  }
  if (to === undefined) return list.filter((_, n) => n !== at);
  if (at >= 0) return list.map((value, n) => (n === at ? to : value));
  const before = list.findIndex((value) => nameOf(value) === after);
  const place = after === null ? 0 : before < 0 ? list.length : before + 1;
  return [...list.slice(0, place), to, ...list.slice(place)];
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
