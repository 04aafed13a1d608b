import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import truckFile from "../../../server/builds/demo/fell-tender-truck.json";
import { theRegister } from "../api/register";
import type { Finding } from "../api/client";
import { useDesign } from "../state/design";
import { gates } from "../state/fitUp";
import { useSelection } from "../state/selection";
import { useSolver } from "../state/solver";
import { type TruckDocument, useTruck } from "../state/truck";
import { writtenOut } from "../state/written";
import { clear, find, press, said, settle, shown } from "../testing/screen";
import { ok, serve } from "../testing/server";
import { finding, solvedTender, tender } from "../testing/solved";
import { Steps } from "./Steps";
import { guessedOf, nextOf, openAt, stepOf } from "./work";

const truck = writtenOut({ ...truckFile, fit_up: null } as unknown as TruckDocument);
/** All of it measured: nothing is guessed any more. */
const measured = {
  ...truck,
  sources: Object.fromEntries(theRegister().truck.map(({ path }) => [path, "measured"])),
} as TruckDocument;
const chosen = { ...measured, choices: { rear: { design: tender.name, reason: "fits", by: "", at: "" } } } as TruckDocument; // prettier-ignore
const passed = (count: number) =>
  ({
    ...chosen,
    fit_up: { ...chosen.fit_up, rear: { notes: "", readings: [], stood: [], drives: [], orders: [], gates: gates().slice(0, count).map(({ id: gate }) => ({ gate, result: "passed", reason: "", by: "", at: "" })) } },
  }) as TruckDocument; // prettier-ignore
const grave = (id: string, severity: Finding["severity"], figure = id) =>
  finding(id, { severity, figure, title: id });

describe("the steps of the job", () => {
  it("have each finding once, where it is dealt with", () => {
    const of = (figure: string) => stepOf(grave("one", "fix", figure));
    expect(["anti_squat", "gap", "zone", "stroke_droop", "slip_out", "bump_steer", "load_rock"].map(of)).toEqual([
      "links", "room", "room", "corners", "cycle", "cycle", "cut",
    ]); // prettier-ignore
    for (const { id } of theRegister().figures)
      expect(["room", "links", "cycle", "corners", "cut"]).toContain(of(id));
  });

  it("say the gravest of what stands open there, and how many", () => {
    const found = [grave("gap", "stop"), grave("zone", "fix"), grave("anti_squat", "fix"), grave("swing", "fix"), grave("bind", "consider")]; // prettier-ignore
    const open = openAt(tender, found, truck);
    expect(open.room).toEqual({ severity: "stop", count: 1, words: "1 stop" });
    expect(open.links).toEqual({ severity: "fix", count: 2, words: "2 to fix" });
    expect(open.cycle).toBeUndefined();
    expect(open.truck!.count).toBe(guessedOf(truck).length);
    expect(open["fit-up"]).toBeUndefined();
    expect(openAt(tender, [], passed(3))).toEqual({
      "fit-up": { severity: "gate", count: gates().length - 3, words: `${gates().length - 3} gates open` },
    });
    expect(openAt(tender, [], passed(gates().length))).toEqual({});
  });
});

describe("what the job wants next", () => {
  const words = (findings: Finding[], on: TruckDocument | null) => nextOf(tender, findings, on)?.words;

  it("is what is missing, then the gravest, then guesses, the choice and the gates, in this order", () => {
    expect(words([grave("gap", "stop")], { ...truck, rails: null })).toBe("The frame rails are not known");
    const both = [grave("gap", "stop"), grave("anti_squat", "fix")];
    expect(nextOf(tender, both, truck)).toMatchObject({ step: "links", words: "Stop: gap" });
    expect(nextOf(tender, both.slice(1), truck)).toMatchObject({ step: "links", words: "Fix: anti_squat" });
    expect(nextOf(tender, [grave("stroke_droop", "fix")], truck)!.step).toBe("corners");
    expect(words([grave("bind", "consider")], truck)).toContain(
      `Measure what is guessed: ${guessedOf(truck)[0]!}`,
    );
    expect(nextOf(tender, [], measured)).toEqual({
      step: "weigh",
      words: "Say that this one is built, and why",
    });
    expect(words([], chosen)).toBe("Gate: Baseline accepted");
    expect(words([], passed(7))).toBe("Gate: Final weld");
    expect(nextOf(tender, [], passed(gates().length))).toBeNull();
  });

  it("is a press away, with its finding open", async () => {
    serve({ "POST /api/cycle": () => ok(solvedTender().answer) });
    const solved = solvedTender([grave("anti_squat", "fix")]);
    useSolver.setState({ solved, judged: tender });
    const { path } = await shown(<Steps design={7} document={tender} />);
    expect(said()).toContain("Links1 to fix");
    await press("Next Fix: anti_squat");
    await settle();
    expect(path()).toBe("/designs/7/links");
    expect(useSelection.getState().finding).toBe("anti_squat");
  });

  it("is nothing, where nothing is left", async () => {
    useTruck.setState({
      truck: { build: 3, number: 1, stored_at: "", document: passed(gates().length), overlays: {} } as never,
    });
    useSolver.setState({ solved: solvedTender(), judged: tender });
    await shown(<Steps design={7} document={tender} />);
    expect(said()).toContain("Nothing is left to do on this axle.");
    expect(find("nav").querySelectorAll("a")).toHaveLength(8);
  });
});

beforeEach(() => {
  useDesign.setState({ document: tender });
  useTruck.setState({ truck: null });
});
afterEach(() => {
  clear();
  vi.unstubAllGlobals();
});
