import { afterEach, describe, expect, it, vi } from "vitest";

import scree from "../../../../server/builds/demo/scree-runner-rear.json";
import type { Schemas } from "../../api/client";
import {
  type Bar, barOf, isShock, isStop, type Shock, shocksOf, sortOf, stopsOf, strapsOf, strutOf, strutsOf, withBar, withSettling, withStrut,
} from "../../document/corners"; // prettier-ignore
import { bodiesOf, type Document, spotsOf } from "../../document/document";
import { typedIn } from "../../document/typed";
import { useDesign } from "../../state/design";
import { useSelection } from "../../state/selection";
import { useTruck } from "../../state/truck";
import { clear, find, press, said, settle, shown, submit, type } from "../../testing/screen";
import { lastOf, ok, refused, serve } from "../../testing/server";
import { solvedTender, tender } from "../../testing/solved";
import { Editor, withPlaces } from "./Editor";
import { Ends, linesOf, natureOf, spread } from "./Ends";
import { barFields, placeFields, strutFields } from "./fields";
import { Parts } from "./Parts";
import { padWords, Sit } from "./Sit";

const runner = scree as unknown as Document;
const revision = {
  design: 7, build: 3, build_name: "Scree runner", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z",
  document: runner,
}; // prettier-ignore

let leave: (() => void) | null = null;

function open(document: Document, answers: Parameters<typeof serve>[0] = {}) {
  useTruck.setState({ truck: null, since: null, trouble: null });
  useSelection.setState({ chosen: [], finding: null });
  useDesign.setState({
    stored: { ...revision, document }, document, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
  }); // prettier-ignore
  return serve({
    "POST /api/designs/7/revisions": (body) => ok({ ...revision, number: 5, document: body["document"] }),
    "POST /api/gaps": () => ok([]),
    ...answers,
  });
}
const leaving = async (what: Parameters<typeof shown>[0]) => (await shown(what)).leave;
const now = () => useDesign.getState().document!;

afterEach(() => {
  leave?.();
  leave = null;
  clear();
  vi.unstubAllGlobals();
});

const rung = (at: number, what: string, part: string, other = "") =>
  ({ at, what, part, other }) as Schemas["Rung"];
const way = (name: string, rungs: Schemas["Rung"][]): Schemas["Rungs"] =>
  ({ way: name, unit: "mm", asked: 100, looked: 175, rungs }) as Schemas["Rungs"];

const BAR = {
  on: "frame", pivot: [500, 300, 700], arm: [200, 400, 700], link: [200, 400, 400], diameter: 25.4,
} as Bar; // prettier-ignore

describe("corners of a design", () => {
  it("change and leave with their mirror image, and what was said of them is forgotten", () => {
    const found = strutOf(runner, "bump-stop-left")!;
    const longer = withStrut(runner, found, (one) => (isStop(one) ? { ...one, free: 200 } : one));
    expect(stopsOf(longer).map(({ free }) => free)).toEqual([200, 200]);
    const locked = { ...runner, locks: { "strap-left.frame": "x", "lower-left.frame": "z" } } as Document;
    const gone = withStrut(locked, strutOf(locked, "strap-left")!, null);
    expect(strapsOf(gone)).toEqual([]);
    expect(gone.locks).toEqual({ "lower-left.frame": "z" });
    expect(withBar(withBar(tender, BAR), null).corners).toEqual(tender.corners);
    expect(withSettling(runner, 12).corners?.settling).toBe(12);
    expect(strutsOf({ ...tender, corners: null })).toEqual([]);
  });

  it("are drawn, named and moved by the table of parts", () => {
    expect(bodiesOf(runner).find(({ id }) => id === "coilover-left")).toMatchObject({ shape: "shock" });
    expect(spotsOf(runner).find(({ name }) => name === "coilover-left.axle")?.on).toBe("lower-left");
    expect(bodiesOf(runner).find(({ id }) => id === "shaft")?.a.at).toEqual(runner.axle.pinion.joint);
    const shaftless = { ...runner, driveshaft: null };
    expect(bodiesOf(shaftless).some(({ id }) => id === "shaft")).toBe(false);
  });
});

describe("sizes", () => {
  const shock = shocksOf(runner)[0]!;

  it("are typed in the units of the shop, and stay what they were where nothing was typed", () => {
    const fields = strutFields(shock, "in16");
    const typed = typedIn(shock, fields, { extended: "43", rate: "350", slide: "5" });
    expect(typed).toMatchObject({ extended: 1092.2, compressed: shock.compressed });
    if (typeof typed === "string" || !isShock(typed)) throw new Error("not a shock");
    expect(typed.spring!.rate).toBeCloseTo(61.29, 1);
    expect(typed.spring!.second!.slide).toBe(127);
    expect(typedIn(shock, fields, { rate: "stiff" })).toBe(
      "Rate, lb/in: Type a number, or one in N/mm or lb/in.",
    );
    expect(typedIn(shock, fields, {})).toBe(shock);
  });

  it("of stops, straps and air are lines and parts of a hundred", () => {
    const stop = stopsOf(runner)[0]!;
    const typed = typedIn(stop, strutFields(stop, "mm"), { force: "20, 500\n40, 3000" });
    expect(typed).toMatchObject({ force: [[20, 500], [40, 3000]] }); // prettier-ignore
    expect(typedIn(stop, strutFields(stop, "mm"), { force: "20" })).toContain("two figures with a comma");
    const strap = strapsOf(runner)[0]!;
    expect(typedIn(strap, strutFields(strap, "mm"), { stretch: "6 %" })).toMatchObject({ stretch: 0.06 });
    const air = {
      ...shock,
      kind: "air",
      spring: null,
      air: { pressure: 200, area: [[150, 13000]], volume: 900000 },
    } as Shock;
    const pumped = typedIn(air, strutFields(air, "in16"), { pressure: "60", area: "5, 20\n8, 16" });
    if (typeof pumped === "string" || !isShock(pumped)) throw new Error("no air");
    expect(pumped.air!.pressure).toBeCloseTo(413.7, 0);
    expect(pumped.air!.area[0]).toEqual([127, 20 * 645.16]);
    const bar = barOf(withBar(tender, BAR))!;
    expect(typedIn(bar, barFields(bar, "mm"), { diameter: "30" })).toMatchObject({ diameter: 30 });
  });

  it("are taken together; what the reader refuses is said and nothing is changed", async () => {
    let answer = ok([]);
    open(runner, { "POST /api/gaps": () => answer });
    leave = await leaving(<Editor document={runner} units="in16" part="coilover-left" />);
    await type(find('[data-size="extended"]'), "44");
    await press("Take these sizes");
    expect(shocksOf(now()).slice(0, 2).map(({ extended }) => extended)).toEqual([1117.6, 1117.6]); // prettier-ignore
    answer = refused("corners.shocks[0]: must be longer extended than compressed");
    await type(find('[data-size="extended"]'), "10");
    await press("Take these sizes");
    expect(said()).toContain("must be longer extended than compressed");
    expect(shocksOf(now())[0]!.extended).toBe(1117.6);
    answer = ok([]);
    await press("One spring");
    expect(shocksOf(now())[0]!.spring!.second).toBeNull();
    await press("Leave it out, and its mirror image");
    expect(strutOf(now(), "coilover-left")).toBeUndefined();
  });
});

describe("places", () => {
  it("are typed in tape notation, a change with its sign, and the mirror image goes with them", () => {
    const shock = shocksOf(runner)[0]!;
    const typed = typedIn(shock, placeFields(shock, "in16"), { frame2: "55", axle0: "+1/2" });
    if (typeof typed === "string") throw new Error(typed);
    const after = withPlaces(runner, typed);
    expect(shocksOf(after)[0]!.frame.at[2]).toBeCloseTo(1397);
    expect(shocksOf(after)[1]!.frame.at[2]).toBeCloseTo(1397);
    expect(shocksOf(after)[1]!.axle.at[0]).toBeCloseTo(shock.axle.at[0] + 12.7);
    expect(typedIn(shock, placeFields(shock, "in16"), { axle1: "wide" })).toContain("Lower, left");
  });
});

describe("a stop's pad", () => {
  it("must reach where the stop strikes while it touches", () => {
    const solved = solvedTender();
    Object.assign(solved.answer.heave.columns, {
      "stop a to_touch": [50, 20, 0, -5, -20], "stop a aside_x": [9, 8, -2, 3, 6], "stop a aside_y": [0, 0, 0, 0, -1.4],
    }); // prettier-ignore
    expect(padWords(solved, "a", "mm")).toContain("from −2 mm to 6 mm ahead of it, and 1 mm to the side");
    expect(padWords(solved, "b", "mm")).toContain("does not touch");
  });
});

describe("the list of parts", () => {
  it("says each pair once, with its size, and asks how much it settles", async () => {
    open(runner);
    leave = await leaving(<Parts document={runner} units="in16" solved={null} />);
    expect(said()).toContain("Coilover left, and its mirror image");
    expect(said()).toContain("24 to 42 in, 400 lb/in");
    expect(said()).not.toContain("Coilover right");
    await type(find('form[aria-label="Settling"] input'), "3/4");
    await submit(find('form[aria-label="Settling"]'));
    expect(now().corners?.settling).toBeCloseTo(19.05);
  });

  it("teaches what comes next where there is nothing, and offers places for what is chosen", async () => {
    open({ ...runner, corners: null });
    leave = await leaving(<Parts document={{ ...runner, corners: null }} units="mm" solved={null} />);
    expect(said()).toContain("Add what you bought");
    leave();
    clear();
    const asked = open(runner, { "POST /api/shocks/places": () => ok([]) });
    useSelection.setState({ chosen: [spotsOf(runner).find(({ part }) => part === "bypass-left")!.key] });
    leave = await leaving(
      <Parts document={runner} units="mm" solved={{ ...solvedTender(), document: runner }} />,
    );
    await press("Find places for it");
    await settle();
    expect(lastOf(asked, "POST /api/shocks/places")).toMatchObject({ shock: "bypass-left" });
    expect(said()).toContain("its stroke is too short");
    expect(sortOf(shocksOf(runner)[2]!)).toBe("bypass");
  });
});

describe("the ladder", () => {
  it("says a pair once, and what may hold and what must not", () => {
    const lines = linesOf(runner, way("bump", [
      rung(90, "touches", "bump-stop-left"), rung(90.1, "touches", "bump-stop-right"),
      rung(120, "shut", "coilover-right"), rung(130, "meets", "lower-left", "rail-left"), rung(140, "links", ""),
    ])); // prettier-ignore
    expect(lines.map(({ words }) => words)).toEqual([
      "Bump stop touches", "Coilover right fully pressed", "Lower left and left rail meet", "a link runs out",
    ]); // prettier-ignore
    expect((["solid", "tight", "coils"] as const).map(natureOf)).toEqual(["holds", "begins", "hard"]);
  });

  it("spreads its labels so that none overprints", () => {
    const placed = spread([10, 11, 12, 300, 519, 520]);
    for (let n = 1; n < placed.length; n += 1) expect(placed[n]! - placed[n - 1]!).toBeGreaterThanOrEqual(17);
    expect(placed.at(-1)).toBeLessThanOrEqual(506);
  });

  it("is read off in words, with what stands behind the first", async () => {
    const ladder = [
      way("bump", [rung(80, "solid", "bump-stop-left"), rung(95, "shut", "coilover-left")]),
      way("droop", [rung(70, "open", "coilover-left"), rung(90, "end", "strap-left")]),
    ];
    const rest = {
      sits: [],
      turns: [],
      sliders: [],
      springs: [],
      instead: [],
      inflated: [],
      filled: [],
      spacers: {},
    };
    open(runner, { "POST /api/corners": () => ok({ ladder, ...rest }) });
    leave = await leaving(<Ends document={runner} units="mm" solved={null} />);
    await settle();
    expect(said()).toContain(
      "bump stop left solid comes first, at 80 mm of 100 mm asked for, as it should be",
    );
    expect(said()).toContain("coilover left fully pressed 15 mm behind it");
    expect(said()).toContain("coilover left fully drawn out comes first");
    expect(said()).toContain("and that must not be what ends it");
  });
});

describe("how it sits", () => {
  it("says each load, a turn, the springs that carry it, and takes one", async () => {
    const sits = (name: string, travel: number | null) =>
      ({ name, weight: 9000, travel, stands: travel === null ? null : -travel - 10, rate: 40, frequency: 1.1, corners: [
        { side: "left", lift: 4500, alone: 0 }, { side: "right", lift: 4500, alone: 6 },
      ] }); // prettier-ignore
    const spring = (rate: number, against: string[]) => ({
      rate, preload: 12.3, at_ride: 150, shortest: 300, frequency: 1.2, against, free_length: 356, inside: 63.5, to_solid: 306,
    }); // prettier-ignore
    const asked = open(runner, {
      "POST /api/corners": () =>
        ok({
          ladder: [], sits: [sits("", 8), sits("Loaded", null)], turns: [{ shocks: ["coilover-left", "coilover-right"], by: 3.2 }],
          sliders: [{ shock: "coilover-left", travel: -40 }], springs: [spring(61.3, []), spring(70, ["loose"])],
          inflated: [{ pressure: 0, stands: -90, under_bump: 10 }], instead: [], seats: 150,
          filled: [{ stands: 25, pressure: 500 }, { stands: 75, pressure: null }],
          spacers: { "bump-stop-left": [{ spacer: 6, touches: 50, solid: null }], "bump-stop-right": [] },
        }), // prettier-ignore
    });
    leave = await leaving(<Sit document={runner} units="mm" solved={null} />);
    await settle();
    expect(said()).toContain("18 mm low"); // 8 mm up in the truck, and 10 mm of settling
    expect(said()).toContain("not carried");
    expect(said()).toContain("The left side’s springs carry their half 6 mm higher");
    expect(said()).toContain("3.2 mm");
    expect(said()).toContain("40 mm into droop");
    expect(said()).toContain("too stiff: loose in droop");
    expect(said()).toContain("Aired out90 mm low");
    expect(said()).toContain("past the travel");
    expect(lastOf(asked, "POST /api/corners")).toMatchObject({ wanted: -10 });
    await press("Take 61.3 N/mm");
    expect(shocksOf(now())[0]!.spring).toMatchObject({ rate: 61.3, preload: 12.5 });
    expect(shocksOf(now())[2]!.spring).toBeUndefined();
    expect(said()).toContain("25 mm high500 kPa");
    expect(said()).toContain("75 mm highnone does");
    expect(said()).toContain("35664306"); // free, inside, and what it must take before it is solid
  });

  it("says what would do where every rate hangs loose, takes it, or says that nothing does", async () => {
    const loose = {
      rate: 70, preload: -12.3, at_ride: 150, shortest: 300, frequency: 1.2, against: ["loose"], free_length: 356, inside: 63.5, to_solid: 306,
    }; // prettier-ignore
    const softer = { ...runner, name: "softer" };
    const answer = (instead: { words: string; document: unknown }[]) => ({
      ladder: [], sits: [], turns: [], sliders: [], springs: [loose], instead, inflated: [], filled: [], spacers: {}, seats: 150,
    }); // prettier-ignore
    let offered = [{ words: "a softer spring, 12.0 N/mm", document: softer as unknown }];
    open(runner, { "POST /api/corners": () => ok(answer(offered)) });
    leave = await leaving(<Sit document={runner} units="mm" solved={null} />);
    await settle();
    expect(said()).toContain("Every one of these hangs loose in droop. What would do:");
    await press("Take a softer spring, 12.0 N/mm");
    expect(now().name).toBe("softer");
    leave();
    offered = [];
    leave = await leaving(<Sit document={{ ...runner, name: "other" }} units="mm" solved={null} />);
    await settle();
    expect(said()).toContain("neither a softer one, a second spring nor a strap keeps it seated");
  });
});
