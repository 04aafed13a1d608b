/** The Fell tender open on a page of Cut sheet, with what the server would answer. */

import { vi } from "vitest";

import tender from "../../../server/builds/demo/fell-tender-rear.json";
import type { Schemas } from "../api/client";
import { type Document, spotsOf } from "../document/document";
import { useDesign } from "../state/design";
import { clear, find, settle, shown, submit, type as typeInto } from "./screen";
import { ok, refused, serve } from "./server";

export const design = tender as unknown as Document;
export const TUBE_SPRING = { rate: 40, solid: 220, diameter: 64 };
export const spot = (name: string) => spotsOf(design).find((one) => one.name === name)!;

let leave: (() => void) | null = null;

export function open(answers: Parameters<typeof serve>[0], document: Document = design) {
  useDesign.setState({
    stored: { design: 7, build: 3, build_name: "Fell tender", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-30T10:00:00Z", document },
    document, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
  } as never); // prettier-ignore
  return serve({ "POST /api/cycle": () => refused("not here"), "POST /api/gaps": () => ok([]), ...answers });
}

export async function area(what: Parameters<typeof shown>[0]) {
  leave = (await shown(what)).leave;
  await settle();
}

/** The part that is shown is left, the rest stays. */
export const leavePage = () => leave?.();

/** What was shown is left; storage and what stood in for the browser are as they were. */
export function left() {
  leave?.();
  leave = null;
  clear();
  localStorage.clear();
  vi.unstubAllGlobals();
}

export const field = (name: string) =>
  [...document.querySelectorAll("label")]
    .find(({ textContent }) => textContent.trim() === name)!
    .querySelector("input")!;
export const type = (name: string, text: string) => typeInto(field(name), text);
export const submitted = (name: string) => submit(find<HTMLFormElement>("form", name));
export const now = () => useDesign.getState().document!;

export const factor = (what: string, value: number | null, severity: string, look_up: string | null = null) => ({
  what, words: what, factor: value, wanted: 1.25, case: "landing", case_words: "landing on full bump", severity, look_up,
}); // prettier-ignore
const push = (on: string, at: number[], force: number[]) => ({ part: "lower-left", on, at, force });
export const LOADS = {
  cases: [
    { id: "launch", words: "launching", travel: 0, articulation: 0, abuse: false, balanced: true, bind: 0,
      springs: { left: 4000, right: 4000 },
      pushes: [push("axle", [0, 500, 400], [-9000, 0, 0]), push("frame", [900, 500, 400], [9000, 0, 0])] },
    { id: "landing", words: "landing on full bump", travel: 120, articulation: 0, abuse: true, balanced: true, bind: 0,
      springs: { left: -5, right: 4000 },
      pushes: [push("axle", [0, 500, 400], [900, 0, 0]), push("frame", [900, 500, 400], [-900, 0, 0])] },
    { id: "tow-hook", words: "tow-hook", travel: 0, articulation: 0, abuse: false, balanced: false, bind: null, springs: null, pushes: [] },
  ],
  parts: [
    { part: "lower-left", words: "lower left link", severity: "stop", guessed: ["its tube is guessed: 50.8 mm by 6.35 mm"],
      factors: [factor("yield", 0.4, "stop"), factor("joint_axle", null, "consider", "the axle joint's rating across its bolt")] },
  ],
  landings: [
    { mount: "lower-left.frame", words: "lower left link at the frame", force: 9000, along: [-8900, 100, -1300], case: "launching",
      rail: "left", lever: 50.8, twist: 120000, twist_case: "braking" },
    { mount: "upper-left.frame", words: "upper left link at the frame", force: 4000, along: [4000, 0, 0], case: "braking",
      rail: null, lever: null, twist: null, twist_case: null },
  ],
  prompts: ["The left rail is open."],
}; // prettier-ignore

const BAR = {
  id: "lower-left", center_to_center: 1000, developed: 1000, cut_length: 920.5, stock_length: 936, adjust: [8, 8],
  per_turn: 1.5875, hands: { axle: null, frame: "right" }, bends: [{ straight: 300, angle: 20, rotation: 0 }],
  last_straight: 640, mass: 6.4, diameter: 50.8, wall: 6.35, ends: ["eye", "rod"], guessed: true,
}; // prettier-ignore
const PLATE = {
  part: "b1-1", thickness: 6.35, outline: [[-20, -20], [20, -20], [0, 30]], holes: [[0, 0, 13.1]], area: 1500,
  wrap: 140, mass: 0.08, same_as: null, origin: [0, 500, 400], u: [1, 0, 0], v: [0, 0, 1],
}; // prettier-ignore
export const CUT = {
  bars: [BAR, { ...BAR, id: "lower-right", cut_length: null, stock_length: null, adjust: null, per_turn: null, mass: null, bends: [] }],
  brackets: [{ id: "b1", gap: 54.8, grip: 67.5, bolt: 12.7, mounts: ["lower-left.axle"], plates: [PLATE, { ...PLATE, part: "b1-2", same_as: "b1-1" }] }],
  truss: [],
  faults: [{ path: "brackets[1].edge", message: "a hole lies 3 mm from the axle tube" }, { path: "links[2]", message: "no tube left" }],
  items: [{ kind: "bar", name: "lower-left", what: "tube", count: 1, sizes: [50.8, 6.35], material: null, length: 920.5, mass: 6.4, note: "" }],
  nest: { bars: [{ stock: 0, pieces: ["lower-left"], rest: 4000 }], plates: [{ stock: 0, parts: [{ part: "b1-1", at: [50, 50], turn: 15 }] }],
          left_over: [["lower-right", "how its ends are made is not known"]] },
  ends: { rod_end_19: { name: "Rod end, 3/4-16", limit: 28, give: 0 } },
  steels: {},
} as unknown as Schemas["CutOut"]; // prettier-ignore
