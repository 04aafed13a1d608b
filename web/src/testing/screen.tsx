/** A screen's part in a document of its own, and a hand to use it. */

import { act, type ReactNode } from "react";
import { createRoot } from "react-dom/client";
import { MemoryRouter, useLocation } from "react-router";

import { atRest, tick } from "./timers";

declare global {
  var IS_REACT_ACT_ENVIRONMENT: boolean;
}
globalThis.IS_REACT_ACT_ENVIRONMENT = true;

/** What jsdom has not: a watcher of sizes, which never sees one change here, and the escaping of ids, which need none. */
class Silent {
  observe() {}
  unobserve() {}
  disconnect() {}
}
Object.assign(globalThis, { ResizeObserver: Silent, CSS: { escape: (text: string) => text } });

export async function shown(what: ReactNode) {
  const place = document.createElement("div");
  document.body.append(place);
  const root = createRoot(place);
  let at = "";
  const Path = () => ((at = useLocation().pathname), null);
  const again = (now: ReactNode) =>
    act(async () => {
      root.render(
        <MemoryRouter>
          <Path />
          {now}
        </MemoryRouter>,
      );
      await pause();
    });
  await again(what);
  return { place, again, leave: () => act(() => root.unmount()), path: () => at };
}

export const pause = (ms = 0) => new Promise((resolve) => setTimeout(resolve, ms));
const TURNS = 250;
/** Let everything that is under way come to its end: what was asked, and what the page does once a hand rests. */
export const settle = () =>
  act(async () => {
    for (let quiet = 0, turn = 0; quiet < 3 && turn < TURNS; turn++) {
      await tick(atRest() ? 1 : 8);
      quiet = atRest() ? quiet + 1 : 0;
    }
  });

const named = (element: Element): string => element.getAttribute("aria-label") ?? element.textContent;

// eslint-disable-next-line @typescript-eslint/no-unnecessary-type-parameters -- as querySelector has it
export function find<E extends HTMLElement>(selector: string, name?: string): E {
  const all = [...document.body.querySelectorAll<E>(selector)];
  const found = name === undefined ? all[0] : all.find((element) => named(element).trim() === name);
  if (!found) throw new Error(`no ${selector} ${name ?? ""} among: ${all.map(named).join(" | ")}`);
  return found;
}

export const button = (name: string) => find<HTMLButtonElement>("button", name);
export const said = (): string => document.body.textContent.replaceAll("\u00a0", " ");

export const press = (name: string) =>
  act(async () => {
    button(name).click();
    await pause();
  });

/** The lines of the menu that is open. */
const lines = () => [...document.body.querySelectorAll<HTMLElement>('[role^="menuitem"]')];
export const items = () => lines().map(named);

/** Press a line of the menu that is open. */
export const choose = (name: string) =>
  act(async () => {
    lines()
      .find((line) => named(line) === name)!
      .click();
    await pause();
  });

/** Choose of a list that a button opens. */
export const pick = (name: string, option: string) =>
  act(async () => {
    const select = find(`button[aria-label="${name}"]`).parentElement!.querySelector("select")!;
    select.value = [...select.options].find(({ textContent }) => textContent === option)!.value;
    select.dispatchEvent(new Event("change", { bubbles: true }));
    await pause();
  });

/** Type into a field, in place of what stood there. */
export const type = (field: HTMLInputElement, text: string) =>
  act(async () => {
    field.focus();
    // past React's own watch on the value, as a browser's keys are
    Reflect.set(HTMLInputElement.prototype, "value", text, field);
    field.dispatchEvent(new Event("input", { bubbles: true }));
    await pause();
  });

export const key = (field: Element, name: string) =>
  act(async () => {
    field.dispatchEvent(new KeyboardEvent("keydown", { key: name, bubbles: true, cancelable: true }));
    await pause();
  });

export const submit = (form: HTMLFormElement) =>
  act(async () => {
    form.requestSubmit();
    await pause();
  });

export function clear(): void {
  document.body.replaceChildren();
}
