import { afterEach, describe, expect, it, vi } from "vitest";

import ghyll from "../../../../server/builds/demo/ghyll-special-rear.json";
import type { Schemas } from "../../api/client";
import { type Document, spotsOf } from "../../document/document";
import { useBehind } from "../../state/behind";
import { useDesign } from "../../state/design";
import { useSolver } from "../../state/solver";
import { useTruck } from "../../state/truck";
import { clear, find, pick, press, said, settle, shown, submit, type } from "../../testing/screen";
import { lastOf, ok, refused, serve } from "../../testing/server";
import { OtherToBuild } from "../../panels/ToBuild";
import { Beside } from "./Beside";
import { BuildThis } from "./BuildThis";
import { Finder } from "./Finder";
import { Holes, inHoles, siteWords } from "./Holes";
import { NewHoles } from "./NewHoles";
import { Tolerance } from "./Tolerance";

const special = ghyll as unknown as Document;
const revision = {
  design: 7, build: 3, build_name: "Ghyll special", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z",
  document: special,
}; // prettier-ignore

let leave: (() => void) | null = null;

function open(answers: Parameters<typeof serve>[0]) {
  useTruck.setState({ truck: null, since: null, trouble: null });
  useBehind.setState({ behind: null });
  sessionStorage.clear();
  useDesign.setState({
    stored: revision, document: special, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
  } as never); // prettier-ignore
  return serve({ "POST /api/cycle": () => refused("not here"), ...answers });
}

async function area(what: (slot: HTMLElement) => Parameters<typeof shown>[0]) {
  const slot = window.document.createElement("div");
  window.document.body.append(slot);
  leave = (await shown(what(slot))).leave;
  await settle();
}

afterEach(() => {
  leave?.();
  leave = null;
  clear();
  vi.unstubAllGlobals();
});

const cell = (value: number | null, severity: string) => ({ value, severity, low: null, high: null });
const column = (of: number, more: Partial<Schemas["BesideColumn"]> = {}) => ({
  of,
  load: "",
  stops: 0,
  fixes: of,
  considers: 1,
  alone: [],
  differs: [],
  ...more,
});

describe("side by side", () => {
  const answer = {
    columns: [column(0), column(1, {
      alone: [{ severity: "fix", title: "Rear steer" }], differs: [{ what: "upper frame mounts", axis: "z", by: -31.75 }],
    })],
    rows: [{ id: "anti_squat", title: "Anti-squat", area: "links", unit: "percent", cells: [cell(85, "fix"), cell(126, "good")], best: [1] },
           { id: "ic_length", title: "Instant center length", area: "links", unit: "mm", cells: [cell(1752, "consider"), null], best: [] }],
  }; // prettier-ignore

  it("puts another design beside this one, says what it has alone, and looks at it", async () => {
    const line = { id: 8, name: "Lower hole", end: "rear", damaged: false };
    const asked = open({
      "GET /api/builds/3": () => ok({ designs: [{ ...line, id: 7 }, line, { ...line, id: 9, name: "Front", end: "front" }] }),
      "GET /api/designs/8": () => ok({ ...revision, design: 8, document: { ...special, name: "Lower hole" } }),
      "POST /api/beside": () => ok(answer),
    }); // prettier-ignore
    await area((slot) => <Beside id={7} document={special} units="mm" slot={slot} />);
    expect(said()).not.toContain("Front");
    await press("Lower hole");
    await settle();
    expect(lastOf(asked, "POST /api/beside")["designs"]).toHaveLength(2);
    expect(said()).toContain("upper frame mounts 32 mm down");
    expect(said()).toContain("Has alone: rear steer (fix)");
    expect(find("td[data-best=true]").textContent).toContain("126 %");
    expect(said()).toContain("none");
    await press("Look at it");
    expect(useBehind.getState().behind?.name).toBe("Lower hole");
  });

  it("puts an earlier revision beside it, and lays the curves of a figure over each other", async () => {
    const early = { ...special, name: "As it was" };
    const curves = [
      { asks: "Drive", curves: [{ column: "anti_squat", judged: "anti_squat", quantity: "percent" }] },
    ];
    const squat = (...values: (number | null)[]) => ({
      curves,
      heave: { columns: { travel: [-60, 0, 60], anti_squat: values } },
    });
    const asked = open({
      "GET /api/builds/3": () => ok({ designs: [] }),
      "GET /api/designs/7/revisions": () =>
        ok({ lines: [4, 3, 2].map((number) => ({ number, damaged: number === 2, changes: [], first: false })), before: null }),
      "GET /api/designs/7/revisions/3": () => ok({ ...revision, number: 3, document: early }),
      "POST /api/beside": () => ok(answer),
      "POST /api/cycle": (body) =>
        ok((body as { document: Document }).document.name === "As it was" ? squat(100, null, null) : squat(60, 80, 120)),
    }); // prettier-ignore
    useSolver.setState({ solved: { answer: squat(60, 80, 120) } as never });
    const overlays = { rear: { vehicle: { ...special.vehicle, mass: 1234 } } };
    useTruck.setState({ truck: { build: 3, number: 9, document: { cases: [] }, overlays } as never });
    await area((slot) => <Beside id={7} document={special} units="mm" slot={slot} />);
    await pick("As it was earlier", "Revision 3");
    await settle();
    expect(lastOf(asked, "POST /api/beside")["designs"]).toMatchObject([
      { name: special.name },
      { name: "As it was" },
    ]);
    // on the truck as it is now, not as it was weighed then
    const sent = lastOf(asked, "POST /api/beside")["designs"] as Document[];
    expect(sent.map(({ vehicle }) => vehicle.mass)).toEqual([special.vehicle.mass, 1234]);
    expect(said()).toContain("Revision 3");
    expect([...window.document.querySelectorAll("button.curves")].map((one) => one.textContent)).toEqual([
      "Anti-squat",
    ]);
    await press("Anti-squat");
    await settle();
    const drawn = find("figure svg[role=img]").getAttribute("aria-label");
    expect(drawn).toBe("This design: 60 % to 120 %; Revision 3: 100 % to 100 %");
    const paths = [...window.document.querySelectorAll("figure path[data-curve]")].map((one) =>
      one.getAttribute("d"),
    );
    expect(paths[0]).toMatch(/^M/);
    expect(paths[1]).toBe(""); // one point is no line
    await press("Close the curves of anti-squat");
    expect(window.document.querySelector("figure")).toBeNull();
    await press("Revision 3"); // taken away again
    await settle();
    expect(lastOf(asked, "POST /api/beside")["designs"]).toHaveLength(1);
    useSolver.setState({ solved: null });
  });

  it("says why a design that is picked can't be fetched", async () => {
    const line = { id: 8, name: "Lower hole", end: "rear", damaged: false };
    open({
      "GET /api/builds/3": () => ok({ designs: [line] }),
      "GET /api/designs/8": () => refused("it is in the bin"),
      "POST /api/beside": () => ok(answer),
    });
    await area((slot) => <Beside id={7} document={special} units="mm" slot={slot} />);
    await press("Lower hole");
    await settle();
    expect(said()).toContain("it is in the bin");
  });

  it("says how another design comes to be where there is none, and what a refusal says", async () => {
    open({ "GET /api/builds/3": () => ok({ designs: [] }), "POST /api/beside": () => refused("not these") });
    await area((slot) => <Beside id={7} document={special} units="mm" slot={slot} />);
    expect(said()).toContain("There is no other design of this axle");
    expect(said()).toContain("not these");
  });
});

const SITES = [
  { mounts: ["upper-left.frame", "upper-right.frame"], holes: [[900, 400, 300], [900, 400, 330]], now: 1, left: "upper-left.frame" },
  { mounts: ["lower-left.axle"], holes: [[0, 400, 200], [0, 400, 240]], now: 0, left: "lower-left.axle" },
] as unknown as Schemas["Site"][]; // prettier-ignore
const combined = (at: number[], squat: number) => ({
  at, lengths: { "upper-left": 600 + 8 * at[0]! },
  set: { anti_squat: squat, ic_length: 1200, roll_center_height: 300, roll_axis_angle: -1, pinion_range: 3 },
  kept: { pinion_change: 1, axle_x: -2 },
}); // prettier-ignore
const MAP = {
  sites: SITES,
  combinations: [combined([0, 0], 120), combined([0, 1], 60), combined([1, 0], 85), combined([1, 1], 40)],
  against: [{ combination: 1, words: ["Upper left link and Seat meet"] }, { combination: 0, words: [] }],
  windows: { anti_squat: [90, 130], ic_length: [1000, 1400] },
  now: 2,
  more: { site: 0, hole: 0, combination: 0, changed: { anti_squat: 35, ic_length: -100, pinion_range: 0.5 } },
  less: null,
}; // prettier-ignore

describe("build this one", () => {
  const truck = { name: "Ghyll", choices: { front: { design: "Front one", reason: "it fits" } } };

  it("marks the open design with its reason, leaves the other axle’s mark, and takes it off", async () => {
    let stored: unknown = null;
    open({});
    const stand = (document: unknown) =>
      useTruck.setState({
        truck: { build: 3, document } as never,
        edit: (next) => ((stored = next), Promise.resolve(true)),
      });
    stand(truck);
    await area(() => <BuildThis document={special} />);
    expect(said()).toContain("No design of this axle is marked yet");
    await submit(find<HTMLFormElement>("form", "Build this one"));
    expect(said()).toContain("Write down why this one.");
    await type(find<HTMLInputElement>("label input"), "lightest that holds");
    await submit(find<HTMLFormElement>("form", "Build this one"));
    const choices = (stored as { choices: Record<string, { design: string; reason: string }> }).choices;
    expect(choices["front"]!.design).toBe("Front one");
    expect(choices["rear"]).toMatchObject({ design: special.name, reason: "lightest that holds" });
    stand(stored);
    await settle();
    expect(said()).toContain("This one: lightest that holds");
    await press("Take the mark off");
    expect((stored as { choices: Record<string, unknown> }).choices["rear"]).toBeUndefined();
  });

  it("is said where another one is open", async () => {
    open({});
    useTruck.setState({
      truck: { build: 3, document: { choices: { rear: { design: "Other", reason: "x" } } } } as never,
    });
    await area(() => <OtherToBuild document={special} />);
    expect(said()).toContain(`Another one is marked to be built: Other. This is ${special.name}.`);
  });
});

describe("holes", () => {
  it("puts the mounts of a site in a hole, the right one mirrored", () => {
    const moved = inHoles(special, SITES, [0, 0]);
    const at = (name: string) => spotsOf(moved).find((one) => one.name === name)!.at;
    expect(at("upper-left.frame")).toEqual([900, 400, 300]);
    expect(at("upper-right.frame")).toEqual([900, -400, 300]);
    expect(siteWords(special, SITES[0]!)).toBe("Upper, frame end");
  });

  it("shows the map as it comes, says what one combination does, and looks at it", async () => {
    let looks = 0;
    open({
      "POST /api/work/hole_map": () => ok({ number: "abc" }),
      "GET /api/work/hole_map/abc": () =>
        ok({ state: ++looks < 2 ? "going" : "done", share: looks / 2, message: "", faults: [], result: MAP }),
    }); // prettier-ignore
    await area((slot) => <Holes id={7} document={special} units="mm" slot={slot} />);
    await press("Work out every combination");
    await settle();
    expect(find("svg [aria-pressed=true]").getAttribute("aria-label")).toContain("85 %, in use");
    const inside = [...window.document.querySelectorAll("svg [role=button]")].filter((one) =>
      one.getAttribute("aria-label")!.includes("inside the window"),
    );
    expect(inside).toHaveLength(1);
    expect(said()).toContain("Upper, frame end to hole 1: anti-squat +35 %");
    expect(said()).toContain("no single hole brings it");
    await press("Show more bite");
    expect(said()).toContain("8 mm shorter");
    expect(said()).toContain("2.5 in");
    await press("Look at it");
    expect(useBehind.getState().behind?.name).toContain("in hole 1");
    leave!();
    await area((slot) => <Holes id={7} document={special} units="mm" slot={slot} />); // as after a reload
    expect(said()).toContain("anti-squat +35 %");
  });

  it("shows the plate small for each hole of a site that is on neither of its ways", async () => {
    const third = { mounts: ["upper-left.axle"], holes: [[0, 300, 500], [0, 300, 540], [0, 300, 580]], now: 2, left: "upper-left.axle" }; // prettier-ignore
    const combinations = MAP.combinations.flatMap((one) =>
      [0, 1, 2].map((k) => combined([...one.at, k], one.set.anti_squat + 20 * k)),
    );
    const result = { ...MAP, sites: [...SITES, third], combinations, against: [], now: 8 };
    open({
      "POST /api/work/hole_map": () => ok({ number: "abc" }),
      "GET /api/work/hole_map/abc": () => ok({ state: "done", share: 1, message: "", faults: [], result }),
    }); // prettier-ignore
    await area((slot) => <Holes id={7} document={special} units="mm" slot={slot} />);
    await press("Work out every combination");
    await settle();
    const small = [...window.document.querySelectorAll("svg[data-small]")];
    const inside = (svg: Element) => svg.querySelectorAll("[data-inside=true]").length;
    // anti-squat 120, 60, 85, 40 with the third in its first hole, 20 more in each further one; 90 to 130 is wanted
    expect(small.map(inside)).toEqual([1, 1, 2]);
    await press("1");
    expect(find("svg [aria-pressed=true]").getAttribute("aria-label")).toContain("85 %");
  });

  it("says how to draw a rack where there is none, what is refused, and forgets what the server forgot", async () => {
    const bare = { ...special, room: { ...special.room, zones: [] } } as unknown as Document;
    open({});
    await area((slot) => <Holes id={7} document={bare} units="mm" slot={slot} />);
    expect(said()).toContain("say a row of holes for it");
    leave!();
    open({
      "POST /api/work/hole_map": () => ok({ number: "abc" }),
      "GET /api/work/hole_map/abc": () =>
        ok({ state: "refused", share: 0, message: "30000 combinations", faults: [], result: null }),
    }); // prettier-ignore
    await area((slot) => <Holes id={7} document={special} units="mm" slot={slot} />);
    await press("Work out every combination");
    await settle();
    expect(said()).toContain("30000 combinations");
    leave!();
    serve({ "GET /api/work/hole_map/abc": () => ({ status: 404, body: { message: "gone" } }) });
    await area((slot) => <Holes id={7} document={special} units="mm" slot={slot} />);
    expect(said()).not.toContain("30000");
    expect(sessionStorage).toHaveLength(0);
  });
});

const holeAt = (more: Partial<Schemas["HoleAt"]> = {}) => ({
  at: [900, 400, 315], before: 0, after: 1, from_before: 15, from_after: 15, metal: 8, plate: 30, middle: 0.1,
  set: { anti_squat: 110, ic_length: 1200 }, lengths: {}, ...more,
}); // prettier-ignore
const newHole = (more: Partial<Schemas["NewHole"]> = {}) => ({
  site: 0, mounts: SITES[0]!.mounts, bolt: 16, edge: 24, bracket: "b1", best: 1, best_middle: 0.6,
  best_set: { anti_squat: 85, ic_length: 1300 }, middle: holeAt(), drilled: null, against: [], design: null, ...more,
}); // prettier-ignore
const rows = (...holes: ReturnType<typeof newHole>[]) => ({
  "POST /api/new-holes": () => ok({ holes, edge: 1.5 }),
});
const newHoles = () => area(() => <NewHoles sites={SITES} document={special} units="mm" />);
const upper = "Upper, frame end in a new hole";

describe("one more hole", () => {
  it("says where the window's middle is, that there is no metal, and shows it behind all the same", async () => {
    open(rows(newHole()));
    await newHoles();
    expect(said()).toContain("between holes 1 and 2, 15 mm from hole 1: anti-squat 110 %");
    expect(said()).toContain("Hole 2 comes nearest now: anti-squat 85 %");
    expect(said()).toContain(
      "1.5 bolts, 24 mm, are wanted from its center to the next hole’s edge, where there are 8 mm",
    );
    expect(said()).toContain("No other place with metal for it");
    await press(`Look at it: ${upper}`);
    const behind = useBehind.getState().behind!.document;
    const at = (name: string) => spotsOf(behind).find((one) => one.name === name)!.at;
    expect(at("upper-left.frame")).toEqual([900, 400, 315]);
    expect(at("upper-right.frame")).toEqual([900, -400, 315]);
    expect(said()).not.toContain("Drill it there");
    await press("Drop it");
    expect(useBehind.getState().behind).toBeNull();
  });

  it("drills where there is metal, and says what speaks against it", async () => {
    const drilled = holeAt({
      before: 1,
      after: null,
      from_before: 40,
      metal: 32,
      at: [900, 400, 370] as never,
    });
    const design = { ...special, name: "Drilled" } as never;
    open(rows(newHole({ drilled: drilled as never, design, against: ["Upper left and floor meet"] })));
    await newHoles();
    expect(said()).toContain("With metal for it, past hole 2, 40 mm from hole 2");
    expect(said()).toContain("Against it: Upper left and floor meet");
    await press(`Look at it: ${upper}`);
    expect(useBehind.getState().behind!.document.name).toBe("Drilled");
    await press("Drill it there");
    expect(useDesign.getState().document!.name).toBe("Drilled");
  });

  it("tells metal from none, off the plate from too near its edge, and an unknown bolt from a known one", async () => {
    open(rows(newHole({ middle: holeAt({ metal: 40, plate: 26 }) as never })));
    await newHoles();
    expect(said()).toContain(
      "There is metal for it: 40 mm to the next hole’s edge, 26 mm to the plate’s edge.",
    );
    leave!();
    open(rows(newHole({ middle: holeAt({ metal: 40, plate: -3 }) as never })));
    await newHoles();
    expect(said()).toContain("to the plate’s edge, and it lies off the plate");
    leave!();
    open(rows(newHole({ bolt: null, edge: null, middle: holeAt({ metal: null, plate: null }) as never })));
    await newHoles();
    expect(said()).toContain("whether there is metal for it can’t be told");
    leave!();
    open(rows(newHole({ middle: null })));
    await newHoles();
    expect(said()).toContain(
      "no place along the row is nearer to the middle of the window than its own holes",
    );
    leave!();
    open(rows());
    await newHoles();
    expect(said()).toContain("nothing to look along");
    leave!();
    open({ "POST /api/new-holes": () => refused("no rack") });
    await newHoles();
    expect(said()).toContain("no rack");
  });
});

describe("finding places", () => {
  const place = {
    at: { "upper-left.frame": [900, 400, 310] }, figures: { anti_squat: 101, ic_length: 1300 }, reserve: 0.42, tightest: "anti_squat",
    left: { anti_squat: 0.42 }, gives_up: [{ figure: "ic_length", value: 1300, other: 1200, of: 1 }], considers: ["Roll axis"], weak: ["Lower left link: its tube yields, launching"],
    document: { ...special, name: "found" },
  }; // prettier-ignore
  const search = (found: unknown[], excluded: unknown = null) =>
    ({ state: "done", share: 1, message: "", faults: [], result: { tried: 4000, judged: 12, seconds: 20, found, excluded } }); // prettier-ignore

  it("asks for what is typed, shows what each gives up, looks at one and takes it", async () => {
    const asked = open({
      "POST /api/work/find": () => ok({ number: "abc" }),
      "GET /api/work/find/abc": () =>
        ok(search([place, { ...place, at: {}, gives_up: [], considers: [], weak: [] }])),
    });
    await area((slot) => <Finder id={7} document={special} units="mm" slot={slot} />);
    const [longest] = window.document.querySelectorAll<HTMLInputElement>("form input");
    await type(longest!, "900");
    await submit(find<HTMLFormElement>("form"));
    await settle();
    expect(lastOf(asked, "POST /api/work/find")).toMatchObject({ longest: 900, seed: 1, error: 2 });
    expect(lastOf(asked, "POST /api/work/find")["stock"]).toBeUndefined();
    await press("Only from the tubes in stock");
    expect(said()).toContain("2 of each size, 6096 mm long");
    await submit(find<HTMLFormElement>("form"));
    await settle();
    const { stock } = lastOf(asked, "POST /api/work/find") as {
      stock: { tubes: { length: number; count: number }[] };
    };
    expect(stock.tubes.every((one) => one.length === 6096 && one.count === 2)).toBe(true);
    expect(stock.tubes.length).toBeGreaterThan(0);
    expect(said()).toContain("42 % of half a band left where it is least, on anti-squat");
    expect(said()).toContain("instant center length 1300 mm, where place 2 has 1200 mm");
    expect(said()).toContain("To consider: Roll axis.");
    await press("Look at it: place 1");
    await press("Take it");
    expect(useDesign.getState().document?.name).toBe("found");
  });

  it("says what cannot be read, and which two demands none met", async () => {
    const why = {
      misses: [{ figure: "anti_squat", holding: "ic_length", value: 70, edge: 90, by: 20 }, { figure: "ic_length", holding: "anti_squat", value: 1600, edge: 1400, by: 200 }],
      gives: [{ figure: "anti_squat", mounts: ["upper-left.frame"], axis: "z", by: -20 }], against: ["Lower left link and tire: they meet"], unbuildable: false,
    }; // prettier-ignore
    open({
      "POST /api/work/find": () => ok({ number: "abc" }),
      "GET /api/work/find/abc": () => ok(search([], why)),
    });
    await area((slot) => <Finder id={7} document={special} units="mm" slot={slot} />);
    const fields = window.document.querySelectorAll<HTMLInputElement>("form input");
    await type(fields[1]!, "long");
    await submit(find<HTMLFormElement>("form"));
    expect(said()).toContain("The shortest:");
    await type(fields[1]!, "");
    await type(fields[3]!, "x");
    await submit(find<HTMLFormElement>("form"));
    expect(said()).toContain("whole number");
    await type(fields[3]!, "2");
    await submit(find<HTMLFormElement>("form"));
    await settle();
    expect(said()).toContain("none met both of these");
    expect(said()).toContain(
      "Anti-squat with instant center length in its band: 70 % at the nearest, where 90 % is wanted",
    );
    expect(said()).toContain("20 mm more room down for upper left, frame");
    expect(said()).toContain("they meet");
  });
});

describe("how exact", () => {
  it("says what holds, what adjusters take out, and each hole's ring; an error that cannot be read is said", async () => {
    const found = {
      error: 1.5875, together: 0.71,
      held: [{ figure: "anti_squat", value: 95, low: 90, high: 130, spread: 3, likely: 0.93, likely_few: 0.93, likely_exact: 0.9, apart: 1 }],
      places: [{ figure: "pinion_change", spread: 0.8, adjusted: 0, within: 0.5, likely: 0.45 }],
      rings: [{ mount: "upper-left.frame", by: 0.9, figure: "yaw" }, { mount: "lower-left.axle", by: 12.7, figure: "" }],
    }; // prettier-ignore
    const asked = open({ "POST /api/outcomes": () => ok(found) });
    await area((slot) => <Tolerance id={7} document={special} units="mm" slot={slot} />);
    expect(said()).toContain("71 % of 10,000 trucks");
    expect(said()).toContain("93 % by the slopes and 90 % worked out");
    expect(said()).toContain("Pinion, up or down0.80°0.00°0.50°45 %");
    expect(said()).toContain("0.9 mmaxle out of square");
    const [field] = window.document.querySelectorAll<HTMLInputElement>("input");
    await type(field!, "wide");
    expect(find("[role=alert]").textContent).not.toBe("");
    await type(field!, "3");
    await settle();
    expect(lastOf(asked, "POST /api/outcomes")["error"]).toBe(3);
  });
});
