import { act } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import truckFile from "../../../../server/builds/demo/fell-tender-truck.json";
import type { Document } from "../../document/document";
import { useDesign } from "../../state/design";
import { type TruckDocument, useTruck } from "../../state/truck";
import { clear, find, press, said, settle, shown, type } from "../../testing/screen";
import { type Asked, lastOf, ok, refused, serve } from "../../testing/server";
import { tender } from "../../testing/solved";
import { Both, usePair, doesWords, matched, rowsOf } from "./Both";
import { Jobs } from "./Jobs";
import { OWN, OwnAxle, sourcePath, withOwn } from "./OwnAxle";
import { byStep, withJobs } from "./jobs";
import { readTyped, takenBy, typedFigure } from "./reading";
import { Wanted, withTarget } from "./Wanted";

const truck = { ...truckFile, targets: {}, jobs: [] } as unknown as TruckDocument;
const front = { ...tender, name: "Front", axle: { ...tender.axle, end: "front" }, travel: { ...tender.travel, bump: 100 } } as Document; // prettier-ignore
const stored = (document: TruckDocument, number = 1) => ({
  build: 3, number, stored_at: "2026-11-24T00:00:00Z", document, overlays: { rear: {}, front: {} },
}); // prettier-ignore

let leave: (() => void) | null = null;
let asked: Asked[] = [];
let typicalAnswer = ok([]);
const now = () => useTruck.getState().truck!.document;

beforeEach(() => {
  useDesign.setState({ stored: null, document: null });
  useTruck.setState({ truck: stored(truck), since: null, trouble: null });
  asked = serve({
    "POST /api/builds/3/truck/revisions": (body) => ok(stored(body["document"] as TruckDocument, 2)),
    "GET /api/builds/3": () => ok({ id: 3, name: "", notes: "", truck: 1, known: [], designs: [
      { id: 8, name: "Front", end: "front", damaged: false }, { id: 9, name: "Other", end: "front", damaged: false },
    ] }),
    "GET /api/designs/8": () => ok({ document: front }),
    "GET /api/designs/9": () => ok({ document: { ...front, name: "Other" } }),
    "POST /api/truck/jobs": () => typicalAnswer,
    "POST /api/stations": () => ok([STATION, { ...STATION, by: 25.4, wheelbase: 2624.6, shaft_longer: -25.4 }]),
    "POST /api/builds/3/truck/move": () => ok(stored({ ...truck, axles: { ...truck.axles, rear: { ...truck.axles.rear, station: 25.4 } } }, 2)),
  }); // prettier-ignore
});
afterEach(() => {
  leave?.();
  leave = null;
  clear();
  vi.unstubAllGlobals();
});

const STATION = {
  by: 0, wheelbase: 2650, tire: null, shaft_length: 1000, shaft_longer: 0,
  least: { a: "tire-left", b: "axle-tube", gap: 10, wanted: 25, travel: 0, articulation: 0, at_a: null, at_b: null },
} as Parameters<typeof doesWords>[1]; // prettier-ignore

function Standing() {
  const standing = usePair({ open: tender, design: 7, build: 3 });
  return <Both truck={truck} units="in16" standing={standing} />;
}

describe("both axles", () => {
  const shows = () => shown(<Standing />).then((it) => (leave = it.leave));

  it("stand side by side, with how their travel goes together", async () => {
    await shows();
    await settle();
    await settle();
    expect(said()).toContain("The rear has 13/16 in more bump. Droop is the same at both ends.");
    expect(said()).toContain("Wheelbase 104 5/16 in; the line of the axles is level.");
    const rows = rowsOf(truck, { front, rear: tender }, "mm");
    expect(rows.find(([name]) => name === "Bump")).toEqual(["Bump", "100 mm", "121 mm"]);
    expect(rowsOf(truck, { front: null, rear: tender }, "mm")[0]).toEqual(["Design", "–", tender.name]);
    expect(matched(truck, { front: null, rear: tender }, "mm")).not.toContain("bump");
  });

  it("are moved with what that does said before", async () => {
    await shows();
    await settle();
    await type(find<HTMLInputElement>('form[aria-label="Move an axle"] input'), "1");
    expect(said()).toContain("Wheelbase 104 5/16 in to 103 5/16 in");
    await settle();
    expect(said()).toContain("The shaft is 1 in shorter at ride.");
    act(() => find<HTMLFormElement>('form[aria-label="Move an axle"]').requestSubmit());
    await settle();
    expect(lastOf(asked, "POST /api/builds/3/truck/move")).toMatchObject({ base: 1, end: "rear", by: 25.4 });
    expect(now().axles.rear.station).toBe(25.4);
  });

  it("say what comes nearest, and where there is no shaft", () =>
    expect(doesWords(tender, STATION, { ...STATION, shaft_longer: null, least: null }, "mm")).toBe(
      "No driveshaft is said. Nearest to anything: now tire left and axle tube, 10 mm apart of 25 mm wanted; then nothing.",
    ));
});

describe("what must move or be held", () => {
  it("starts from what the core holds for typical, gone through in the order of the work", async () => {
    const job = (id: string, what: string, before: string) =>
      ({ id, what, where: "", count: 1, before, done: false }); // prettier-ignore
    const typical = [job("j1", "Breather", "Cycling the axle"), job("j2", "Stands", "Lifting it")];
    typicalAnswer = refused("no time");
    ({ leave } = await shown(<Jobs truck={truck} units="mm" />));
    await press("Start from what is typical");
    await settle();
    expect(said()).toContain("no time");
    expect(now().jobs).toEqual([]);
    typicalAnswer = ok(typical);
    await press("Start from what is typical");
    await settle();
    expect(now().jobs).toEqual(typical);
    expect(byStep(now().jobs).map(([step]) => step)[0]).toBe("Lifting it");
  });

  it("is ticked off, deleted and added, with bad input refused", async () => {
    const listed = withJobs(truck, [
      { what: "Brake hose", where: "left", count: 2, before: "Stripping", done: false },
    ]);
    useTruck.setState({ truck: stored(listed) });
    ({ leave } = await shown(<Jobs truck={listed} units="mm" />));
    expect(said()).toContain("2 × Brake hose, left");
    await press("To do: Brake hose");
    await settle();
    expect(now().jobs[0]!.done).toBe(true);
    const send = () => act(() => find<HTMLFormElement>("form").requestSubmit());
    send();
    await settle();
    expect(said()).toContain("Say what must move");
    await type(find<HTMLInputElement>('[data-job="what"]'), "Breather");
    await type(find<HTMLInputElement>('[data-job="count"]'), "half");
    send();
    await settle();
    expect(said()).toContain("a whole number");
    await type(find<HTMLInputElement>('[data-job="count"]'), "1");
    send();
    await settle();
    expect(now().jobs.map((job) => job.what)).toEqual(["Brake hose", "Breather"]);
  });
});

describe("what is wanted of a figure", () => {
  const figure = {
    id: "rear_offset", words: "Rear axle, left of center", unit: "mm", value: 4, sigma: 1, grade: "outside", target: 0,
    tolerance: 3, own: false, path: null, take: null, stands: null,
  } as Parameters<typeof Wanted>[0]["figure"]; // prettier-ignore

  it("is set for this truck, and put back to the house's", async () => {
    ({ leave } = await shown(<Wanted figure={figure} truck={truck} units="mm" />));
    expect(said()).toContain("house value: outside");
    await press("Set what is wanted: rear axle, left of center");
    const [, tolerance] = document.querySelectorAll("input");
    await type(tolerance as HTMLInputElement, "wide");
    const send = () => act(() => find<HTMLFormElement>("form").requestSubmit());
    send();
    await settle();
    expect(said()).toContain("Type a length");
    await type(tolerance as HTMLInputElement, "6");
    send();
    await settle();
    expect(now().targets).toEqual({ rear_offset: { target: 0, tolerance: 6 } });
    expect(withTarget(now(), "rear_offset", null).targets).toEqual({});
  });

  it.each([
    [0.3, "deg", "0.30"],
    [0.5, "share", "50.0 %"],
    [1000, "kg", "1000 kg"],
    [12, "mm", "12 mm"],
  ] as const)("is typed as it is shown: %s %s", (value, unit, text) => {
    expect(typedFigure(value, unit, "mm")).toBe(text);
    expect(readTyped(text, unit, "mm")).toBeCloseTo(value);
  });

  it("that can't be read is refused", () => expect(readTyped("steep", "deg", "mm")).toContain("degrees"));
});

it("who took a reading and when is said as far as it is known", () => {
  expect(takenBy({ by: "Wren", at: "2026-11-24T09:30:00.000Z" })).toBe("Wren, 2026-11-24 09:30");
  expect(takenBy({ by: null, at: null })).toBe("");
});

describe("this axle's own figures", () => {
  const own = (last: string) => OWN.find((one) => one.path.at(-1) === last)!;
  const field = (path: string) => find<HTMLInputElement>(`[data-own="${path}"]`);
  const open = async () => {
    useDesign.setState({
      stored: { design: 7, build: 3, build_name: "", number: 4, truck: 1, stored_on: 1, stored_at: "", document: tender },
      document: tender, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
    }); // prettier-ignore
    ({ leave } = await shown(<OwnAxle document={tender} truck={truck} units="mm" />));
  };

  it("are put in their place; a housing that nobody said stands about the axle", () => {
    expect(withOwn(tender, own("angle"), 7).axle.pinion.angle).toBe(7);
    expect(withOwn(tender, own("diameter"), 250).axle.housing).toEqual({ at: [0, 0, 444.5], diameter: 250 });
    expect(sourcePath(tender, own("bump"))).toBe("designs.rear.travel.bump");
  });

  it("are taken where the reader takes them, else said at their place", async () => {
    serve({
      "POST /api/gaps": (body) =>
        (body["document"] as Document).travel.bump < 0 ? refused("travel.bump: must be 0 or more") : ok([]),
      "POST /api/designs/7/revisions": (body) =>
        ok({ design: 7, build: 3, number: 5, truck: 1, document: body["document"] }),
    });
    await open();
    expect(field("axle.housing.diameter").placeholder).toContain("guessed");
    expect(document.querySelector('[data-own="axle.caster"]')).toBeNull();
    await type(field("travel.bump"), "130");
    act(() => field("travel.bump").blur());
    await settle();
    expect(useDesign.getState().document!.travel.bump).toBe(130);
    await type(field("travel.bump"), "-5");
    act(() => field("travel.bump").blur());
    await settle();
    expect(said()).toContain("must be 0 or more");
    await type(field("axle.pinion.angle"), "steep");
    act(() => field("axle.pinion.angle").blur());
    await settle();
    expect(said()).toContain("Type degrees");
    expect(useDesign.getState().document!.axle.pinion.angle).toBe(tender.axle.pinion.angle);
  });
});
