import { afterEach, describe, expect, it, vi } from "vitest";

import tender from "../../../../server/builds/demo/fell-tender-rear.json";
import truckFile from "../../../../server/builds/demo/fell-tender-truck.json";
import type { Document } from "../../document/document";
import { recordOf } from "../../state/fitUp";
import { FIRST, type Stood, stoodOf } from "../../state/stood";
import { type TruckDocument, useTruck } from "../../state/truck";
import { writtenOut } from "../../state/written";
import { clear, find, pick, press, said, settle, shown, submit, type } from "../../testing/screen";
import { lastOf, ok, refused, serve } from "../../testing/server";
import { OnWeight } from "./OnWeight";

const design = tender as unknown as Document;
const bare = writtenOut({ ...truckFile, fit_up: null } as unknown as TruckDocument);
const NOTHING = { stood: [], beside: [], height: [], strange: {} };
const GAPS = [
  { a: "shaft", b: "crossmember", gap: 40, wanted: 25, travel: 0, articulation: 0, at_a: null, at_b: null },
];

let leave: (() => void) | null = null;

async function area(answers: Parameters<typeof serve>[0], units: "mm" | "in16" = "mm", stood: Stood[] = []) {
  const truck = { ...bare, fit_up: { ...bare.fit_up, rear: { ...bare.fit_up!["rear"]!, stood } } };
  useTruck.setState({
    truck: { build: 3, number: 1, document: truck } as never,
    edit: (next) => {
      useTruck.setState({ truck: { build: 3, number: 1, document: next } as never });
      return Promise.resolve(true);
    },
  });
  const asked = serve({ "POST /api/on-weight": () => ok(NOTHING), ...answers });
  leave = (await shown(<Kept units={units} />)).leave;
  await settle();
  return asked;
}

function Kept({ units }: { units: "mm" | "in16" }) {
  const truck = useTruck((s) => s.truck!.document);
  return <OnWeight {...{ document: design, truck, units }} />;
}

afterEach(() => {
  leave?.();
  leave = null;
  clear();
  vi.unstubAllGlobals();
});

const kept = () => recordOf(useTruck.getState().truck!.document, design).stood;
const field = (name: string) =>
  [...document.querySelectorAll("label")]
    .find(({ textContent }) => textContent.trim() === name)!
    .querySelector("input")!;
const form = () => find<HTMLFormElement>("form", "Take a reading on its weight");
const shock: Stood = { id: "w1", stance: "weight", left_out: false, by: "", at: "", note: "", kind: "strut", of: "coilover-left", value: 660, unit: "mm" }; // prettier-ignore

describe("what is read on its weight", () => {
  it("is kept as it was read, or says what is wrong with it", () => {
    expect(stoodOf({ ...FIRST, of: "coilover-left" }, "26 1/4", "w1", "in16")).toMatchObject({
      value: 26.25,
      unit: "in",
    });
    expect(stoodOf(FIRST, "26", "w1", "in16")).toBe("Choose what was read.");
    expect(stoodOf({ ...FIRST, of: "coilover-left" }, "-3", "w1", "mm")).toBe(
      "A distance is not below nothing.",
    );
    expect(stoodOf({ ...FIRST, kind: "pinion" }, "91", "w1", "mm")).toContain("0 to 90 degrees");
    expect(stoodOf({ ...FIRST, kind: "pinion" }, "", "w1", "mm")).toContain("as a number");
    expect(stoodOf({ ...FIRST, kind: "pinion", points: "down" }, "9.5°", "w1", "mm")).toMatchObject({
      value: 9.5,
      points: "down",
    });
    expect(stoodOf({ ...FIRST, kind: "gap" }, "9", "w1", "mm")).toBe("Choose between which two parts.");
    expect(stoodOf({ ...FIRST, kind: "gap", pair: "shaft crossmember" }, "9", "w1", "mm")).toMatchObject({
      of: "shaft",
      to: "crossmember",
    });
  });

  it("is taken by what, of what and which way, and asked about with all that was read", async () => {
    const asked = await area({
      "POST /api/gaps": () => ok(GAPS),
      "GET /api/instruments": () => ok({ names: ["gauge"], why: "" }),
      "POST /api/instruments/zero": () => ok(null),
      "POST /api/instruments/read": () => ok({ value: 3.5, unit: "deg" }),
    });
    expect(said()).toContain("Nothing was read yet.");
    await submit(form());
    expect(said()).toContain("Choose what was read.");
    await pick("Of", "Coilover left");
    await type(field("Reads"), "661");
    await submit(form());
    await settle();
    expect(kept()).toMatchObject([
      { kind: "strut", of: "coilover-left", value: 661, unit: "mm", stance: "weight" },
    ]);
    await pick("How it stands", "Held at full droop");
    await pick("What is read", "Pinion, on a gauge");
    await pick("Held", "On a face square to it");
    await pick("Which way", "Its nose points down");
    await press("Zero the gauge so");
    await settle();
    expect(lastOf(asked, "POST /api/instruments/zero")).toEqual({ on: "level" });
    await press("Read it off the bench");
    await settle();
    expect(lastOf(asked, "POST /api/instruments/read")).toEqual({
      instrument: "gauge",
      what: "rear_pinion square",
    });
    expect(field("Degrees").value).toBe("3.50");
    await submit(form());
    await settle();
    expect(kept()[1]).toMatchObject({
      kind: "pinion",
      value: 3.5,
      stance: "droop",
      face: "square",
      points: "down",
    });
    await pick("What is read", "A bar, on a gauge");
    await pick("Of", "Upper left link");
    await pick("Higher", "Its end at the axle");
    await type(field("Degrees"), "2");
    await submit(form());
    await settle();
    expect(kept()[2]).toMatchObject({ kind: "bar", of: "upper-left", high: "axle" });
    await pick("What is read", "Gap between two parts");
    await settle();
    await pick("Between", "Shaft and gearbox crossmember");
    await type(field("Reads"), "38");
    await submit(form());
    await settle();
    expect(kept()[3]).toMatchObject({ kind: "gap", of: "shaft", to: "crossmember", value: 38 });
    expect((lastOf(asked, "POST /api/on-weight")["record"] as { stood: unknown[] }).stood).toHaveLength(4);
  });

  it("says how it stands, what that points to, and what each reading should be there", async () => {
    const stood: Stood[] = [
      shock,
      { ...shock, id: "p", kind: "pinion", value: 8, zero: "level", face: "along", points: "up" } as never,
    ];
    const found = {
      stood: [
        { stance: "weight", wanted: 0, travel: 22, articulation: 0.5, left: 25.4, right: 0.2, level: false },
        {
          stance: "bump",
          wanted: 120,
          travel: 101.6,
          articulation: 0,
          left: 101.6,
          right: 101.6,
          level: true,
        },
      ],
      height: ["It stands 22 mm lower than drawn, at the axle's center."],
      beside: [
        { reading: "w1", unit: "mm", read: 660, drawn: 660, built: null, differs: false, points: [] },
        {
          reading: "p",
          unit: "deg",
          read: 8,
          drawn: 9.4,
          built: 9.2,
          differs: true,
          points: ["It would come from the upper left link 12.7 mm longer."],
        },
      ],
      strange: { x: "this design has no such bar" },
    };
    const lost: Stood = { ...shock, id: "x", kind: "bar", of: "old", value: 3, high: "axle" } as never;
    const turned = {
      turn: -2.1, way: "its nose down", read: 8.3, after: { pinion: 6.2 }, soft: "Set 1.5 degrees under its setting.",
      lengths: [{ part: "upper-left", words: "Upper left link", by: -6.35, turns: null }, { part: "upper-right", words: "Upper right link", by: -6, turns: -2.5 }],
    }; // prettier-ignore
    const asked = await area(
      { "POST /api/on-weight": () => ok(found), "POST /api/shaft/turn": () => ok({ turned }) },
      "in16",
      [...stood, lost],
    );
    expect(said()).toContain("On its weight: left wheel 1 in up in the truck, right at its place");
    expect(said()).toContain("Held at full bump:");
    expect(said()).toContain("4 3/4 in up is drawn. One side alone was read: it is taken to stand level.");
    expect(said()).toContain("It stands 7/8 in lower than drawn");
    expect(said()).toContain("8.0° nose up; 9.4° nose up as drawn, 9.2° nose up as built: it differs.");
    expect(said()).toContain("upper left link 1/2 in longer");
    expect(said()).toContain("as foretold.");
    expect(said()).toContain("Not used: this design has no such bar.");
    await press("What to turn, by the links");
    await settle();
    expect(lastOf(asked, "POST /api/shaft/turn")).toMatchObject({
      value: 8,
      points: "up",
      travel: 22,
      how: "links",
    });
    expect(said()).toContain(
      "With its brackets, by the links: 2.1°, its nose down. Brought to ride it reads 8.3° nose up, then 6.2°",
    );
    expect(said()).toContain("Upper left link: 1/4 in shorter (the pitch of its ends is not known)");
    expect(said()).toContain("Upper right link: 1/4 in shorter, 2.5 turns");
  });

  it("is left out and deleted, and a refusal is said", async () => {
    await area({ "POST /api/on-weight": () => refused("no room for springs") }, "mm", [shock]);
    expect(said()).toContain("no room for springs");
    await press("Leave out: Coilover left, on its weight");
    await settle();
    expect(kept()[0]!.left_out).toBe(true);
    expect(said()).toContain("(left out)");
    await press("Delete: Coilover left, on its weight");
    await settle();
    expect(kept()).toEqual([]);
  });
});
