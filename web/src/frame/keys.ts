/** Every key there is: what it does wherever no text is being typed, and what the help says of it. */

import { useEffect } from "react";

import type { Opened } from "../state/areas";
import { takeTyped } from "../state/said";
import { useDesign } from "../state/design";

/** Keys by where they hold, for the help sheet. */
export const KEYS: readonly (readonly [where: string, keys: readonly (readonly [key: string, does: string])[]])[] = [
  ["Anywhere", [
    ["1, 2, 3", "to the side, top and rear view"],
    ["R", "to the readings"],
    ["F", "to the findings"],
    ["M", "to the chosen mount’s figures"],
    ["T", "open the tape sheet"],
    ["L", "change the layout: links and locator"],
    ["K, C, S", "to the room, the cycle, the corners (springs); again, back to the links"],
    ["Ctrl Z, Ctrl Y", "undo, redo"],
    ["?", "help: the guide’s page for this step, what the figures mean, keys"],
  ]],
  ["In a view", [
    ["arrows", "walk to the next mount that way"],
    ["Enter", "take hold of the mount; again, let go"],
    ["arrows, held", "move it by 1/8 in; with Shift by 1/32, with Alt by 1/2 (5, 1 and 10 mm)"],
    ["in a row of holes", "arrows and the hand go from hole to hole; with Shift it leaves the row"],
    ["Ctrl Enter", "choose it together with the others"],
    ["Escape", "put back what is dragged; let go; choose nothing"],
  ]],
  ["In a figure’s field", [
    ["Enter", "take it; the next figure replaces it"],
    ["Escape", "leave it as it stood"],
  ]],
  ["In the tape sheet", [
    ["Tab, Enter, ↓", "down the column, on to the next; back with Shift"],
    ["Ctrl V", "fill in a block copied from a spreadsheet"],
  ]],
  ["In a pane", [
    ["Enter", "take the cure or the pull that is looked at"],
    ["Escape", "drop it; back to the findings"],
  ]],
]; // prettier-ignore

const PLACES: Record<string, string> = {
  "1": '[aria-label="Side, from the left view"] [data-mount][tabindex="0"]',
  "2": '[aria-label="Top view"] [data-mount][tabindex="0"]',
  "3": '[aria-label="Rear view"] [data-mount][tabindex="0"]',
  r: "[data-reading]",
  f: '[data-testid="pane"] button',
  m: 'section[aria-label="Mount"] input, section[aria-label="Mount"] button',
};

/** Whether text is being typed: a field that is only looked at undoes nothing itself. */
const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLInputElement && target.type !== "range" && target.type !== "checkbox";

function undoing(event: KeyboardEvent): boolean {
  const { target } = event;
  if (isTyping(target) && (target as HTMLInputElement).dataset["typed"] !== "false") return false;
  const key = event.key.toLowerCase();
  const { undo, redo } = useDesign.getState();
  if (key === "y" || (key === "z" && event.shiftKey)) redo();
  else if (key === "z") undo();
  else return false;
  return true;
}

/** Areas that a key goes to. */
export type Area = "room" | "cycle" | "corners";
const AREA_KEYS: Record<string, Area> = { k: "room", c: "cycle", s: "corners" };

/** `ask`: what a key opens, by its name. */
export function useKeys(ask: (what: Area | Opened) => void): void {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey) {
        if (undoing(event)) event.preventDefault();
        return;
      }
      const inDialog =
        event.target instanceof Element && event.target.closest('[role="dialog"], [role="alertdialog"]');
      if (event.altKey || isTyping(event.target) || inDialog || event.defaultPrevented) return;
      const place = PLACES[event.key.toLowerCase()];
      if (place) {
        takeTyped();
        document.querySelector<HTMLElement>(place)?.focus();
      } else if (event.key === "?") ask("help");
      else if (event.key.toLowerCase() === "t") ask("tape");
      else if (event.key.toLowerCase() === "l") ask("layout");
      else if (AREA_KEYS[event.key.toLowerCase()]) ask(AREA_KEYS[event.key.toLowerCase()]!);
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, [ask]);
}
