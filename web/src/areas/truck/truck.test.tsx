import { act } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import truckFile from "../../../../server/builds/demo/fell-tender-truck.json";
import { theRegister } from "../../api/register";
import { readingsOf } from "../../figures/readings";
import { useDesign } from "../../state/design";
import { usePreferences } from "../../state/preferences";
import { valueAt } from "../../panels/TruckFigures";
import { type Truck as Stored, useTruck } from "../../state/truck";
import { clear, find, key, pick, press, said, settle, shown, type } from "../../testing/screen";
import { type Asked, ok, serve } from "../../testing/server";
import { finding, solvedTender, tender } from "../../testing/solved";
import { typedOf } from "../../panels/OffTheBench";
import { askedOf } from "./bench";
import { changing, under } from "./Cases";
import { markOf } from "./MarkForm";
import { readingOf, saidOf, showFigure, START } from "./reading";
import { Truck } from "./Truck";
import { rakeOf } from "./Drawn";
import { withMake } from "./Frame";

const document_ = () => globalThis.document;
const document = { targets: {}, rules: [], ...truckFile } as unknown as Stored["document"];
/** The demo's truck with a few of its readings. */
const short = {
  ...document,
  readings: document.readings
    .filter(({ id }) => ["r1", "r16"].includes(id))
    .map((reading) => ({ ...reading, left_out: false })),
};
const stored = (doc = short, number = 1): Stored => ({
  build: 3, number, stored_at: "2026-11-24T00:00:00Z", document: doc, overlays: { rear: {}, front: {} },
}); // prettier-ignore
const revision = {
  design: 7, build: 3, build_name: "Fell tender", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z",
  document: tender,
}; // prettier-ignore
const FIGURES = {
  figures: [
    {
      id: "cg_height", words: "Center of gravity, off the floor", unit: "mm", value: 889, sigma: 12.7, grade: null, target: null,
      tolerance: null, own: false, path: "vehicle.cg_height", take: 889, stands: 905,
    },
    {
      id: "rear_offset", words: "Rear axle, left of center", unit: "mm", value: -8, sigma: 1, grade: "outside", target: 0,
      tolerance: 3, own: false, path: null, take: null, stands: null,
    },
  ],
  again: { r16: "Take it again: it reads 1 in more than the others together say." },
  unused: { r1: "A hub's height is kept." },
  hints: ["Weigh both ends."],
  unsettled: [
    { id: "rear_pinion", words: "Rear pinion, nose up", why: "They read 5.5 degrees and 9.2 degrees." },
  ],
  held_out: {},
}; // prettier-ignore
const SAVE = "POST /api/builds/3/truck/revisions";

let asked: Asked[];
beforeEach(() => {
  localStorage.clear();
  usePreferences.setState({ units: "in16", theme: "light" });
  useTruck.setState({ truck: stored(), since: null, trouble: null });
  useDesign.setState({
    stored: revision, document: tender, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
  }); // prettier-ignore
  asked = serve({
    "POST /api/baseline": () => ok(FIGURES),
    [SAVE]: (body) => ok(stored(body["document"] as Stored["document"], 2)),
  });
});
let leave: (() => void) | null = null;
afterEach(() => {
  leave?.();
  leave = null;
  clear();
  vi.unstubAllGlobals();
});

const opened = async () => {
  ({ leave } = await shown(<Truck />));
  await settle();
};
const saved = () => asked.filter(({ line }) => line === SAVE).at(-1)!.body["document"] as Stored["document"];

describe("the Truck area", () => {
  it("shows what readings come to, beside what is in force, and what is wrong with them", async () => {
    await opened();
    expect(said()).toContain("35.00 ± 0.50 in");
    expect(said()).toContain("outside");
    expect(said()).toContain("Take it again: it reads 1 in more");
    expect(said()).toContain("A hub's height is kept.");
    expect(said()).toContain("Weigh both ends.");
  });

  it("has every figure in force on the drawing, with where it comes from, to be pressed and set there", async () => {
    await opened();
    const chips = [...document_().querySelectorAll<HTMLElement>("[data-chip]")];
    const numbers = theRegister().truck.filter(({ path }) => typeof valueAt(short, path) === "number");
    expect(numbers.length).toBeGreaterThan(12);
    expect(chips.map((chip) => chip.dataset["chip"]).sort()).toEqual(numbers.map(({ path }) => path).sort());
    const height = chips.find((chip) => chip.dataset["chip"] === "vehicle.cg_height")!;
    expect(height.dataset["source"]).toBe("guessed");
    expect(height.textContent).toContain("35 5/8 in");
    act(() => height.click());
    await settle();
    const field = find<HTMLInputElement>('input[data-figure="vehicle.cg_height"]');
    await type(field, "36 in");
    await key(field, "Enter");
    await settle();
    expect(saved().vehicle.cg_height).toBeCloseTo(914.4);
  });

  it("takes a figure into force as measured", async () => {
    await opened();
    await press("Take 35 in: center of gravity, off the floor");
    await settle();
    expect(saved().vehicle.cg_height).toBe(889);
    expect(saved().sources?.["vehicle.cg_height"]).toBe("measured");
  });

  it("keeps a reading that is left out, and drops one that is deleted", async () => {
    await opened();
    await press("Leave out r16");
    await settle();
    expect(saved().readings.find(({ id }) => id === "r16")!.left_out).toBe(true);
    await press("Delete r16");
    await settle();
    expect(saved().readings.some(({ id }) => id === "r16")).toBe(false);
  });

  it("takes a reading down as it was read, and says what can't be", async () => {
    await opened();
    const reads = find<HTMLInputElement>('[data-reads="true"]');
    await type(reads, "22 1/2");
    act(() => reads.closest("form")!.requestSubmit());
    await settle();
    expect(said()).toContain("Say which mark it was taken from");
    expect(asked.some(({ line }) => line === SAVE)).toBe(false);
  });

  it("adds a mark by name and place", async () => {
    await opened();
    for (const [key, text] of [
      ["name", "stub-left"],
      ["ahead", "10"],
      ["left", "17 1/2"],
      ["up", "22 1/2"],
    ])
      // prettier-ignore
      await type(find<HTMLInputElement>(`[data-mark="${key!}"]`), text!);
    act(() => find("form[aria-label='Add a mark']").closest("form")!.requestSubmit());
    await settle();
    expect(saved().marks.at(-1)).toEqual({ id: "stub-left", at: [254, 444.5, 571.5] });
  });

  it("waits for the truck, and teaches where nothing was read", async () => {
    useTruck.setState({ truck: null });
    await opened();
    expect(said()).toContain("Fetching the truck…");
  });
});

describe("the frame's rails", () => {
  const rails = { outside_width: 860, depth: 140, flange: 60, underside: 500 };

  it("says how each is made and what its wall is", async () => {
    useTruck.setState({ truck: stored({ ...short, rails }) });
    await opened();
    await pick("How the left rail is made", "Open C, flanges inward");
    await settle();
    expect(saved().rails).toEqual({ ...rails, left: { made: "open" } });
    await type(find<HTMLInputElement>("[data-size=wall]"), "3/16");
    await press("Take this wall");
    await settle();
    expect(saved().rails!.left!.made).toBe("open");
    expect(saved().rails!.left!.wall).toBeCloseTo(4.7625);
  });

  it("leaves out what nothing is said of any more", () => {
    const made = withMake({ ...rails, left: { made: "boxed" } }, "left", { made: null });
    expect(made).toEqual({ ...rails, left: null });
    expect(withMake(made, "right", { wall: 4 })).toEqual({ ...rails, left: null, right: { wall: 4 } });
  });
});

describe("rules that bind", () => {
  const form = () => find<HTMLFormElement>('form[aria-label="Add a rule"]');
  const field = (name: string) =>
    [...form().querySelectorAll("label")].find((one) => one.textContent === name)!.querySelector("input")!;
  const put = async () => {
    await press("Add the rule");
    await settle();
  };

  it("are typed with their limit and where it is written, and refused in words", async () => {
    await opened();
    await put();
    expect(said()).toContain("Say what the rule says.");
    await type(field("What it says"), "No more than 60 %");
    await type(field("Where it is written"), "Class book 4.2");
    await put();
    expect(said()).toContain("Give the least or the most that is allowed.");
    await type(field("At least"), "70");
    await type(field("At most"), "60");
    await put();
    expect(said()).toContain("The least is more than the most.");
    await type(field("At least"), "");
    await put();
    expect(saved().rules).toEqual([
      { id: expect.stringMatching(/^rule-1-/) as string, kind: "figure", figure: "anti_squat", words: "No more than 60 %", written: "Class book 4.2", end: null, low: null, high: 60 },
    ]); // prettier-ignore
    expect(field("What it says").value).toBe("");
  });

  it("limit a mount's height in the units of the shop", async () => {
    await opened();
    await type(field("What it says"), "Nothing under 14 in");
    await pick("How it is held", "Limits a mount’s height");
    await type(field("At least"), "14");
    await pick("For which axle", "Rear axle");
    await put();
    expect(saved().rules[0]).toMatchObject({
      kind: "height",
      of: "lower-left.axle",
      end: "rear",
      high: null,
    });
    expect((saved().rules[0] as { low: number }).low).toBeCloseTo(355.6);
  });

  it("that are looked at by hand are marked as checked, and any is deleted", async () => {
    const hand = { id: "a", kind: "hand" as const, words: "Two bolts a strap", written: "Page 3", checked: false, by: "" };
    const apart = { id: "b", kind: "distance" as const, words: "Long enough", written: "", from: "lower-left.axle", to: "lower-left.frame", low: 508 };
    useTruck.setState({ truck: stored({ ...short, rules: [hand, apart] }) });
    await opened();
    expect(said()).toContain("Two bolts a strap, looked at by hand, Page 3");
    expect(said()).toContain("Long enough, lower left, axle end to lower left, frame end, 20 in or more");
    await press("Not checked: Two bolts a strap");
    await settle();
    expect(saved().rules[0]).toMatchObject({ id: "a", checked: true });
    await press("Delete Long enough");
    await settle();
    expect(saved().rules.map(({ id }) => id)).toEqual(["a"]);
  }); // prettier-ignore
});

describe("the bench", () => {
  const there = (read: () => ReturnType<typeof ok>) =>
    serve({
      "POST /api/baseline": () => ok(FIGURES),
      "GET /api/instruments": () => ok({ names: ["tape", "gauge", "scale"], why: "" }),
      "POST /api/instruments/read": read,
    });

  it("is not offered where there is none", async () => {
    await opened();
    expect(document_().querySelector("form")!.textContent).not.toContain("bench");
  });

  it("fills the field with what it reads, or says why it reads nothing", async () => {
    const asked = there(() => ok({ value: 2017.4, unit: "mm" }));
    await opened();
    await press("Read it off the bench");
    await settle();
    expect(said()).toContain("Say first what is to be read.");
    expect(asked.some(({ line }) => line.endsWith("read"))).toBe(false);
  });

  it("is asked in its own words", () => {
    expect(askedOf(START)).toBeNull();
    expect(askedOf({ ...START, from: "cab-left" })).toEqual({ instrument: "tape", what: "height cab-left" });
    expect(askedOf({ ...START, kind: "along", from: "cab-left" })!.what).toBe("along cab-left rear-hub-left");
    expect(askedOf({ ...START, kind: "angle" })).toEqual({ instrument: "gauge", what: "rear_pinion along" });
    expect(askedOf({ ...START, kind: "scale" })!.what).toBe("front left level");
    expect(askedOf({ ...START, kind: "scale", raised: "rear", by: "550" })!.what).toBe("front left rear 550");
  });

  it("reads as it would be typed", () => {
    expect(typedOf({ value: 2017.4, unit: "mm" }, "mm")).toBe("2017.4 mm");
    expect(typedOf({ value: 635, unit: "mm" }, "in16")).toBe("25.000 in");
    expect(typedOf({ value: 9.153, unit: "deg" }, "mm")).toBe("9.15");
    expect(typedOf({ value: 829.54, unit: "kg" }, "in16")).toBe("829.5 kg");
  });
});

describe("readings", () => {
  const taking = { ...START, from: "cab-left" };

  it("keep value and unit as read", () => {
    expect(readingOf({ ...taking, kind: "height" }, "22 1/2", "r9", "in16")).toEqual({
      id: "r9", kind: "height", point: "cab-left", value: 22.5, unit: "in", instrument: "tape", left_out: false,
    }); // prettier-ignore
    expect(readingOf({ ...taking, kind: "along", tool: "laser" }, "1234", "r9", "mm")).toMatchObject({
      kind: "along", from: "cab-left", to: "rear-hub-left", value: 1234, unit: "mm", instrument: "laser",
    }); // prettier-ignore
    expect(readingOf({ ...START, kind: "angle", travel: "-30" }, "6.8°", "r9", "mm")).toMatchObject({
      of: "rear_pinion", value: 6.8, zero: "level", face: "along", points: "up", travel: -30,
    }); // prettier-ignore
    expect(readingOf({ ...START, kind: "scale" }, "1850", "r9", "in16")).toMatchObject({ value: 1850, unit: "lb", side: "left", raised: null }); // prettier-ignore
    expect(readingOf({ ...START, kind: "scale", side: "both", raised: "rear", by: "600 mm" }, "900 kg", "r9", "in16")).toMatchObject({
      value: 900, unit: "kg", raised: { end: "rear", by: 600 },
    }); // prettier-ignore
  });

  it.each([
    [{ kind: "height" }, "blue"],
    [{ kind: "height" }, "-3"],
    [{ kind: "distance", to: "cab-left" }, "40"],
    [{ kind: "angle" }, "97"],
    [{ kind: "angle" }, ""],
    [{ kind: "angle", travel: "blue" }, "7"],
    [{ kind: "scale" }, "heavy"],
    [{ kind: "scale", raised: "rear", by: "" }, "900"],
    [{ kind: "scale", raised: "rear", by: "0" }, "900"],
  ] as const)("refuse %o reading %s in words", (more, text) => {
    expect(typeof readingOf({ ...taking, ...more }, text, "r9", "in16")).toBe("string");
  });

  it("are said in words", () => {
    expect(document.readings.map((reading) => saidOf(reading, "in16")).join("; ")).toMatch(
      /cab-left off the floor: .* to rear-hub-left, fore-aft: .*Rear pinion: 9.1°.*front left: 1830 lb/,
    );
  });

  it("come to figures with what they may be off by", () => {
    expect(showFigure(6.818, 0.071, "deg", "mm")).toBe("6.82° ± 0.07°");
    expect(showFigure(0.53, 0.001, "share", "mm")).toBe("53.0 % ± 0.1 %");
    expect(showFigure(3100, 4, "kg", "mm")).toBe("3100 ± 4 kg");
    expect(showFigure(100, 4, "kg", "in16")).toBe("220 ± 9 lb");
    expect(showFigure(-0.3, 1.5, "mm", "mm")).toBe("0 ± 1.5 mm");
  });

  it("need marks with a name and a place", () => {
    const texts = { name: "a", ahead: "1", left: "-2", up: "3" };
    expect(markOf(texts, "mm", [])).toEqual({ id: "a", at: [1, -2, 3] });
    expect(markOf(texts, "mm", ["a"])).toContain("already");
    expect(markOf({ ...texts, name: " " }, "mm", [])).toContain("name");
    expect(markOf({ ...texts, up: "high" }, "mm", [])).toContain("Off the floor");
  });
});

describe("loads", () => {
  const load = { name: "Loaded", mass: 3500, front_share: 0.45, cg_height: 950 };

  it("change what the truck weighs and where its center is, and nothing else", () => {
    const loaded = under(tender, load);
    expect(loaded.vehicle).toEqual({ ...tender.vehicle, mass: 3500, front_share: 0.45, cg_height: 950 });
    expect({ ...loaded, vehicle: tender.vehicle }).toEqual(tender);
  });

  it("show the figures that say something else under them", () => {
    const [now, loaded] = [65, 58].map((value) => solvedTender([finding("anti_squat", { value })]).answer);
    expect(changing(readingsOf(tender), now!, [loaded!], "mm").map(({ id }) => id)).toEqual(["anti_squat"]);
    expect(changing(readingsOf(tender), now!, [now!], "mm")).toEqual([]);
  });

  it("lean by what the tires differ", () => {
    expect(rakeOf(document)).toBe(0);
    const axles = { ...document.axles, front: { ...document.axles.front, tire_radius_loaded: 490.755 } };
    expect(rakeOf({ ...document, axles })).toBeCloseTo(1, 2);
  });
});
