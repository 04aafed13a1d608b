import { act } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";

import tender from "../../../../server/builds/demo/fell-tender-rear.json";
import truckFile from "../../../../server/builds/demo/fell-tender-truck.json";
import type { Document } from "../../document/document";
import { type TruckDocument, useTruck } from "../../state/truck";
import {
  clear,
  find,
  pick,
  press,
  said,
  settle,
  shown,
  submit,
  type as typeInto,
} from "../../testing/screen";
import { lastOf, ok, refused, serve } from "../../testing/server";
import { finding, solvedTender } from "../../testing/solved";
import { useDesign } from "../../state/design";
import { useSolver } from "../../state/solver";
import { AsBuilt } from "./AsBuilt";
import { Drives } from "./Drives";
import { Gates } from "./Gates";
import { OnPaper } from "./OnPaper";
import { missedBy } from "./OrderOfGates";
import { Readings } from "./Readings";
import { WeldOrder } from "./WeldOrder";
import { freeId } from "../../document/ids";
import { gatesOf, nextGate, openBefore, readingOf, recordOf, withRecord } from "../../state/fitUp";
import { standsSaid, turnsSaid } from "./said";

const design = tender as unknown as Document;
const bare = { ...truckFile, targets: {}, jobs: [], fit_up: null } as unknown as TruckDocument;

let leave: (() => void) | null = null;
let stored: TruckDocument = bare;

function open(answers: Parameters<typeof serve>[0], truck: TruckDocument = bare) {
  stored = truck;
  useTruck.setState({
    truck: { build: 3, number: 1, document: truck } as never,
    edit: (next) => {
      stored = next;
      return Promise.resolve(true);
    },
  });
  return serve(answers);
}

async function area(what: Parameters<typeof shown>[0]) {
  leave?.();
  leave = (await shown(what)).leave;
  await settle();
}

afterEach(() => {
  leave?.();
  leave = null;
  clear();
  vi.unstubAllGlobals();
});

const field = (name: string) =>
  [...document.querySelectorAll("label")]
    .find(({ textContent }) => textContent.trim() === name)!
    .querySelector("input")!;

describe("what is kept", () => {
  it("keeps each axle’s own fit-up and leaves the other alone", () => {
    const record = { ...recordOf(bare, design), notes: "ours" };
    const both = withRecord({ ...bare, fit_up: { front: { notes: "theirs" } } as never }, design, record);
    expect(recordOf(both, design).notes).toBe("ours");
    expect((both.fit_up as Record<string, { notes: string }>)["front"]!.notes).toBe("theirs");
  });

  it("keeps a reading in the unit it was read in, and says what is wrong with one", () => {
    const taking = { kind: "height", of: "upper-left.frame", to: "" } as const;
    expect(readingOf(taking, "24 15/16", "r1", "in16")).toMatchObject({
      value: 24.9375,
      unit: "in",
      kind: "height",
    });
    expect(readingOf(taking, "633", "r1", "mm")).toMatchObject({ value: 633, unit: "mm" });
    expect(readingOf({ ...taking, of: "" }, "633", "r1", "mm")).toBe("Choose what was read.");
    expect(readingOf({ kind: "distance", of: "a", to: "a" }, "633", "r1", "mm")).toBe(
      "Choose the other mount.",
    );
    expect(readingOf({ kind: "length", of: "a", to: "" }, "-5", "r1", "mm")).toBe(
      "A distance is not below nothing.",
    );
    expect(readingOf(taking, "high", "r1", "mm")).toEqual(expect.any(String));
    const readings = [{ id: "r2" }] as never;
    expect(freeId(readings)).toMatch(/^r2-[0-9a-z]{3}$/);
    expect(new Set(Array.from({ length: 50 }, () => freeId(readings))).size).toBeGreaterThan(45);
  });

  it("says turns and places as a shop does", () => {
    expect([2.5, -1, 0.5].map(turnsSaid)).toEqual([
      "2 1/2 turns longer",
      "1 turn shorter",
      "1/2 turn longer",
    ]);
    expect(standsSaid("pinion_change", -1.2, "mm")).toBe("1.20° down");
    expect(standsSaid("axle_y", 9, "mm")).toBe("9 mm to the left");
    expect(standsSaid("axle_x", 0.1, "mm")).toBe("in its place");
  });
});

describe("gates", () => {
  it("are passed in order, or with a written reason, never silently", async () => {
    open({});
    await area(<Gates document={design} truck={bare} units="mm" />);
    await press("Pass it");
    expect(recordOf(stored, design).gates).toMatchObject([{ gate: "baseline", result: "passed" }]);
    await area(<Gates document={design} truck={stored} units="mm" />);
    expect(find("[data-gate=marked]").getAttribute("aria-expanded")).toBe("true");
    await press("○Final weldopen");
    await press("Pass it");
    expect(said()).toContain("Not passed yet: mounts marked, tacked");
    await press("Pass it with a reason");
    expect(said()).toContain("Write the reason down first.");
    await typeInto(field("Reason, or what was seen"), "Trailer only");
    await press("Pass it with a reason");
    const record = recordOf(stored, design);
    expect(record.gates.at(-1)).toMatchObject({
      gate: "final_weld",
      result: "reason",
      reason: "Trailer only",
    });
    expect(nextGate(record)).toBe("marked");
    expect(openBefore(record, "torque")).not.toContain("Final weld");
  });
});

describe("the log as a file", () => {
  const choose = async (text: string) => {
    const input = find<HTMLInputElement>("input[type=file]");
    Object.defineProperty(input, "files", { value: [new File([text], "log.json")], configurable: true });
    await act(async () => {
      input.dispatchEvent(new Event("change", { bubbles: true }));
      await Promise.resolve();
    });
    await settle();
  };

  it("is saved, and brought in beside what is kept, with what both changed", async () => {
    const given = vi.spyOn(URL, "createObjectURL").mockReturnValue("blob:x");
    const record = { ...recordOf(bare, design), notes: "theirs" };
    const asked = open({
      "POST /api/fit-file": () => ok({ text: "{}" }),
      "POST /api/fit-file/bring": () =>
        ok({
          record,
          added: 3,
          there: 1,
          differ: ["reading r2"],
          strange: { r9: "is no mount of this design" },
        }),
    });
    await area(<Gates document={design} truck={bare} units="mm" />);
    await press("Save the log as a file");
    await settle();
    expect(given).toHaveBeenCalledOnce();
    await choose('{"format": "oak-lever-fit"}');
    await vi.waitFor(() => expect(said()).toContain("3 entries are new, 1 was here already."), 30_000);
    expect(said()).toContain("kept as it was here: reading r2");
    expect(said()).toContain(
      "Kept, and not used: 1 of what this design has not (is no mount of this design).",
    );
    expect(lastOf(asked, "POST /api/fit-file/bring")["text"]).toBe('{"format": "oak-lever-fit"}');
    expect(recordOf(stored, design).notes).toBe("theirs");
    given.mockRestore();
  });

  it("of another design is refused, and nothing changes", async () => {
    open({ "POST /api/fit-file/bring": () => refused('the log is of "Yard truck"') });
    await area(<Gates document={design} truck={bare} units="mm" />);
    await choose("{}");
    await vi.waitFor(
      () => expect(said()).toContain('log.json was not brought in. the log is of "Yard truck"'),
      30_000,
    );
    expect(stored).toBe(bare);
  });
});

describe("the order of the gates", () => {
  it("is changed for this build with a reason, and says what then comes too late", async () => {
    open({});
    await area(<Gates document={design} truck={bare} units="mm" />);
    await press("Change the order of this build’s gates");
    await press("Leave out: Cycled with springs out");
    expect(said()).toContain("Final weld asks for: cycled with springs out.");
    await press("Later: Baseline accepted");
    await press("Take this order");
    expect(said()).toContain("Write down why first.");
    await typeInto(field("Why"), "Springs are welded in");
    await press("Take this order");
    const record = recordOf(stored, design);
    expect(record.gate_order).toMatchObject({ reason: "Springs are welded in" });
    expect(
      gatesOf(record)
        .map(({ id }) => id)
        .slice(0, 3),
    ).toEqual(["marked", "baseline", "tacked"]);
    expect(nextGate(record)).toBe("marked");
    expect(openBefore(record, "final_weld")).toContain("Cycled with springs out");
    expect(openBefore(record, "marked")).toEqual([]);
    await area(<Gates document={design} truck={stored} units="mm" />);
    expect(said()).toContain("This build has its own order");
    expect(said()).toContain("Springs are welded in");
    await press("Change the order of this build’s gates");
    await press("Put back: Cycled with springs out");
    expect(missedBy(["final_weld", "tacked"])[0]).toContain("Final weld asks for: tacked, measured");
    await press("Back to the usual order");
    expect(recordOf(stored, design).gate_order ?? null).toBeNull();
  });
});

const FIT = {
  mounts: [{ mount: "upper-left.frame", at: [0, 0, 0], off: [19, 0, -16], sigma: [1, 1, 1], measured: true }],
  lengths: [{ bar: "upper-left", designed: 800, made: 800, needed: 790, turns: null }],
  suspects: [{ reading: "r1", off: 5.2, why: "it reads an inch too much" }],
  designed: { anti_squat: 65, roll_center_height: 650 },
  as_made: { anti_squat: 59, roll_center_height: 648 },
  corrections: {
    stands: { pinion_change: 2.1, axle_x: 0, axle_y: -20, yaw: 0.02 }, within: { pinion_change: 0.5, axle_x: 3, axle_y: 3, yaw: 0.1 },
    inside: false,
    offered: [{ turns: { "upper-left": -2.5 }, moves: {}, then: { pinion_change: 0.1, axle_x: 0, axle_y: 1, yaw: 0 }, inside: true, sure: true },
              { turns: {}, moves: { "upper-left.frame": [-19, 0, 16] }, then: { pinion_change: 0, axle_x: 0, axle_y: 0, yaw: 0 }, inside: true, sure: false }],
  },
  next: { kind: "distance", of: "lower-left.axle", to: "lower-right.frame", now: 4, then: 2, figure: "yaw", enough: false },
  strange: { r2: '"gone" is no mount of this design' },
}; // prettier-ignore

const withReadings = withRecord(bare, design, {
  ...recordOf(bare, design),
  readings: [
    { id: "r1", kind: "height", of: "upper-left.frame", value: 25, unit: "in", left_out: false },
    { id: "r2", kind: "height", of: "gone.frame", value: 600, unit: "mm", left_out: false },
  ] as never,
});

describe("paper and welding", () => {
  it("opens the fit-up sheet of what is stored", async () => {
    const opened = vi.fn();
    vi.stubGlobal("open", opened);
    useDesign.setState({ stored: { design: 7, build: 3 }, sync: { state: "stored" } } as never);
    open({});
    await area(<OnPaper units="mm" />);
    await press("Fit-up sheet, A4");
    expect(opened.mock.calls[0]![0]).toMatch(
      /^\/api\/designs\/7\/fit-up\.pdf\?units=mm&paper=a4&today=\d{4}-\d\d-\d\d$/,
    );
    useDesign.setState({ stored: null } as never);
  });

  it("says in which order brackets are welded and which way each pulls, and where there are none", async () => {
    let steps = [
      { bracket: "b1", words: "bracket b1, lower left link at the axle", pulls: "draws the tube's ends up", then: "the pinion's angle" },
    ]; // prettier-ignore
    open({ "POST /api/weld-order": () => ok(steps) });
    await area(<WeldOrder document={design} />);
    expect(said()).toContain("draws the tube's ends up. Then measure the pinion's angle.");
    steps = [];
    await area(<WeldOrder document={{ ...design, name: "Bare" }} />);
    expect(said()).toContain("No bracket is drawn yet");
  });
});

describe("readings", () => {
  it("names the slip, says what is not used, leaves one out, and takes the next", async () => {
    open({ "POST /api/fit": () => ok(FIT) }, withReadings);
    await area(<Readings document={design} truck={withReadings} units="mm" />);
    expect(find("[data-reading=r1]").textContent).toContain("635 mm");
    expect(said()).toContain("Does not fit the others, by 5.2 sigma: it reads an inch too much.");
    expect(said()).toContain("Not used: \"gone\" is no mount of this design.");
    expect(said()).toContain("Now square is known to 0.40°, one sigma; 0.05° is wanted.");
    await press("Leave out: Height off the floor: upper left, frame end");
    expect(recordOf(stored, design).readings[0]!.left_out).toBe(true);
    await press("Delete: Height off the floor: gone.frame");
    expect(recordOf(stored, design).readings).toHaveLength(1);
    await press("Read that");
    await typeInto(field("Reads"), "1310");
    await submit(find<HTMLFormElement>("form", "Take a reading"));
    expect(recordOf(stored, design).readings.at(-1)).toMatchObject({
      kind: "distance", of: "lower-left.axle", to: "lower-right.frame", value: 1310, unit: "mm",
    });
    await pick("What is read", "A bar’s length");
    await typeInto(field("Reads"), "1310");
    await submit(find<HTMLFormElement>("form", "Take a reading"));
    expect(said()).toContain("Choose what was read.");
  });
}); // prettier-ignore

describe("as built", () => {
  it("says where the axle stands, what to correct and what it then does", async () => {
    open({ "POST /api/fit": () => ok(FIT) }, withReadings);
    await area(<AsBuilt document={design} truck={withReadings} units="mm" />);
    expect(find(".bad").textContent).toBe("2.10° up");
    expect(said()).toContain("20 mm to the right");
    expect(said()).toContain("Upper left 2 1/2 turns shorter.");
    expect(said()).toContain("Move upper left, frame end 19 mm back, 16 mm up.");
    expect(said()).toContain("Inside every tolerance, even if what was read is off by two sigma.");
    expect(said()).toContain("no thread known");
  });

  it("says gladly that nothing is to be corrected, and what a refusal says", async () => {
    const inside = { ...FIT, corrections: { ...FIT.corrections, inside: true, offered: [] } };
    open({ "POST /api/fit": () => ok(inside) }, withReadings);
    await area(<AsBuilt document={design} truck={withReadings} units="mm" />);
    expect(said()).toContain("Nothing to correct: inside its tolerance.");
    open(
      { "POST /api/fit": () => ok({ ...FIT, corrections: { ...FIT.corrections, offered: [] } }) },
      withReadings,
    );
    await area(<AsBuilt document={{ ...design }} truck={{ ...withReadings }} units="in16" />);
    expect(said()).toContain("Neither turning");
    open({ "POST /api/fit": () => refused("not this axle") }, withReadings);
    await area(<AsBuilt document={{ ...design, name: "Other" }} truck={withReadings} units="mm" />);
    expect(said()).toContain("not this axle");
  });
});

describe("drives", () => {
  const causes = (figure: string, out: boolean) => ({
    figure, name: "Anti-squat", how: "too much of it jacks the axle up", finding: figure, value: 104, unit: "percent", low: 40, high: 90, stands_out: out,
  });
  const COMPLAINTS = [
    { complaint: "hops", words: "It hops under drive", causes: [causes("anti_squat", true)] },
    { complaint: "leans", words: "It leans or rolls far", causes: [] },
  ];
  const before = {
    id: "run-1", at: "2026-11-30T09:00:00Z", by: "Ada", design: "Fell tender, rear", revision: 3, setting: "Upper hole", felt: ["hops"],
    than_before: null, note: "third bump", figures: { anti_squat: 90, swing: 20 },
  };
  const kept = (...drives: object[]) => ({ ...bare, fit_up: { rear: { notes: "", readings: [], gates: [], drives } } }) as unknown as TruckDocument;
  const judged = (value: number) =>
    useSolver.setState({
      solved: solvedTender([
        finding("anti_squat", { value, unit: "percent", title: "Anti-squat" }),
        finding("swing", { value: 20, unit: "deg", title: "Link swing" }),
      ]),
    });

  it("are written down with the setting, what was felt, and the figures of the design as it stands", async () => {
    judged(104);
    open({ "POST /api/complaints": () => ok(COMPLAINTS) });
    await area(<Drives document={design} truck={bare} units="in16" />);
    expect(said()).toContain("No run is written down yet.");
    await press("Write it down");
    expect(said()).toContain("Say with which setting");
    await typeInto(field("Setting"), "Lower hole, 12 psi");
    await press("It hops under drive");
    await press("It leans or rolls far");
    await press("It leans or rolls far");
    await press("Write it down");
    await settle();
    const [run] = recordOf(stored, design).drives;
    expect(run).toMatchObject({ setting: "Lower hole, 12 psi", felt: ["hops"], than_before: null, figures: { anti_squat: 104, swing: 20 } });
    expect(field("Setting").value).toBe("");
  });

  it("are held against the run before, and say what could be behind what was felt last", async () => {
    judged(104);
    open({ "POST /api/complaints": () => ok(COMPLAINTS) });
    const last = { ...before, id: "run-2", setting: "Lower hole", than_before: "worse", figures: { anti_squat: 104, swing: 20 } };
    await area(<Drives document={design} truck={kept(before, last)} units="in16" />);
    expect([...document.querySelectorAll("[data-drive]")].map((row) => row.getAttribute("data-drive"))).toEqual(["run-2", "run-1"]);
    act(() => find("[data-drive=run-2]").click());
    await settle();
    expect(said()).toContain("revision 3; by Ada; It hops under drive; worse than before.");
    expect(said()).toContain("Against the run before");
    expect(said()).toContain("Anti-squat90 %104 %");
    expect(said()).not.toContain("Link swing20");
    expect(said()).toContain("What could be behind it");
    expect(said()).toContain("too much of it jacks the axle up");
    act(() => find("[data-drive=run-1]").click());
    await settle();
    expect(said()).not.toContain("Against the run before");
    await pick("Than the run before", "Better than before");
    await typeInto(field("Setting"), "Middle hole");
    await press("Write it down");
    await settle();
    expect(recordOf(stored, design).drives.at(-1)).toMatchObject({ setting: "Middle hole", than_before: "better", felt: [] });
  });

  it("say which hole to try where there are rows of holes, or that none helps", async () => {
    judged(104);
    const last = { ...before, id: "run-2", setting: "Lower hole" };
    const row = { id: "z", name: "", mounts: ["lower-left.frame"], region: { kind: "holes", at: [[0, 0, 0]] } };
    const drilled = { ...design, room: { zones: [row] } } as unknown as Document;
    const offered = [
      { finding: "anti_squat", title: "Anti-squat", unit: "percent", now: 104, then: 78, inside: true, mounts: "lower left link, frame end",
        was: 2, hole: 3, longer: { "lower-left": 6.35 }, graver: ["Rear steer"] },
    ]; // prettier-ignore
    const asked = open({ "POST /api/complaints": () => ok(COMPLAINTS), "POST /api/hole-to-try": () => ok(offered) });
    await area(<Drives document={drilled} truck={kept(before, last)} units="in16" />);
    await vi.waitFor(() => expect(said()).toContain("Anti-squat 104 % to 78 %, inside its band: lower left link, frame end, from hole 2 to hole 3; lower left 1/4 in longer. Graver then: rear steer."), 30_000);
    expect(lastOf(asked, "POST /api/hole-to-try")["felt"]).toEqual(last.felt);
    open({ "POST /api/complaints": () => ok(COMPLAINTS), "POST /api/hole-to-try": () => ok([]) });
    await area(<Drives document={{ ...drilled, name: "Other" }} truck={kept(before, last)} units="in16" />);
    await vi.waitFor(() => expect(said()).toContain("No one change of hole"), 30_000);
  });

  it("say why where the figures can't be gone through", async () => {
    open({ "POST /api/complaints": () => refused("no such figure") });
    await area(<Drives document={design} truck={bare} units="mm" />);
    expect(said()).toContain("no such figure");
  });
}); // prettier-ignore
