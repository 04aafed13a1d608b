/**
 * What is typed in a form and not yet given with its button: kept on this device, for the open design, until it is.
 * In this tab's own storage first, so that two tabs keep two; in the browser's, so that it outlasts the tab.
 */

import { useState } from "react";

import { useDesign } from "./design";
import { usePreferences } from "./preferences";

const stores = () => [sessionStorage, localStorage];

/** Like `useState`, outlasting the page, unless `form` is null; what was kept in another shape than `start` has is not taken up. */
export function useDraft<T>(form: string | null, start: T): [T, (next: T) => void] {
  const design = useDesign((s) => s.stored?.design);
  const key = design === undefined || form === null ? null : `oak-lever draft ${design} ${form}`;
  const [held, setHeld] = useState(() => ({ key, value: draftAt(key, start) }));
  if (held.key !== key) setHeld({ key, value: draftAt(key, start) });
  const put = (value: T) => {
    keepDraft(key, value, start);
    setHeld({ key, value });
  };
  return [held.value, put];
}

function draftAt<T>(key: string | null, start: T): T {
  if (key === null) return start;
  try {
    const text = stores()
      .map((store) => store.getItem(key))
      .find((one) => one !== null);
    const kept: unknown = JSON.parse(text ?? "null");
    return fits(kept, start) ? (kept as T) : start;
  } catch {
    return start;
  }
}

function keepDraft(key: string | null, value: unknown, start: unknown) {
  if (key === null) return;
  const text = JSON.stringify(value);
  const blank = text === JSON.stringify(start);
  try {
    for (const store of stores()) {
      if (blank) store.removeItem(key);
      else store.setItem(key, text);
    }
  } catch {
    // storage that is full or forbidden: the page itself still has it
  }
}

/** The texts typed in fields, by their keys; kept like any draft, and shown in the units that they were typed in. */
export function useTexts(form: string) {
  const units = usePreferences((s) => s.units);
  return useDraft<Record<string, string>>(`${form}, ${units}`, {});
}

/** Whether what was kept is of the kind that is held now; where that holds nothing yet, any texts by their keys are. */
function fits(kept: unknown, start: unknown): boolean {
  if (shapeOf(start) !== shapeOf({})) return shapeOf(kept) === shapeOf(start);
  if (kept === null || typeof kept !== "object" || Array.isArray(kept)) return false;
  return Object.values(kept).every((text) => typeof text === "string");
}

/** What kind of value it is, with the names of its parts. */
const shapeOf = (value: unknown): string =>
  value !== null && typeof value === "object" && !Array.isArray(value)
    ? Object.keys(value).sort().join()
    : Array.isArray(value)
      ? "list"
      : typeof value;
