import { afterEach, describe, expect, it, vi } from "vitest";
import { useScrub } from "../../state/scrub";
import { clear, find, pick, press, said, settle } from "../../testing/screen";
import { lastOf, ok, refused } from "../../testing/server";
import { inUnits } from "../../units/tape";
import { Bars } from "./Bars";
import { Bolts } from "./Bolts";
import { Brackets } from "./Brackets";
import { useCase } from "../../state/case";
import { Loads } from "./Loads";
import { MarkOut } from "./MarkOut";
import {
  awayOf,
  bracketAt,
  faceOf,
  withBracketAt,
  withEnd,
  withSizes,
  sizesOf,
  withTube,
  tubeOf,
} from "./making";
import { spaceOf } from "./plate";
import { useTaken } from "../../state/taken";
import { stockFile, useStock } from "../../state/stock";
import { caseFrom, caseSaid, OwnCases } from "./OwnCases";
import { Shop } from "./Shop";
import {
  factor,
  field,
  design,
  spot,
  open,
  area,
  left,
  type,
  submitted,
  now,
  LOADS,
  CUT,
  leavePage,
} from "../../testing/cutting";

afterEach(left);

describe("what is changed in a design", () => {
  const kind = { name: "Rod end", limit: 28, give: 0, width: 57, bolt: 12.7 } as never;

  it("puts an end at a mount and its mirror image, and into the catalog", () => {
    const changed = withEnd(design, spot("lower-left.axle"), "rod_end_19", kind);
    const joints = ["lower-left", "lower-right"].map(
      (id) => (changed.links.find((link) => link.id === id) as { axle: { joint?: string } }).axle.joint,
    );
    expect(joints).toEqual(["rod_end_19", "rod_end_19"]);
    expect(changed.joints!["rod_end_19"]).toEqual(kind);
  });

  it("sizes a tube on both sides and leaves the others", () => {
    const changed = withTube(design, "upper-left", { diameter: 44.45 });
    expect(tubeOf(changed, "upper-right").diameter).toBe(44.45);
    expect(tubeOf(changed, "lower-left")).toEqual(tubeOf(design, "lower-left"));
  });

  it("draws a bracket at both of a pair, on faces that mirror each other", () => {
    const changed = withBracketAt(design, spot("upper-left.frame"), "0 -1 0");
    expect(changed.brackets!.map(({ id, mounts }) => [id, mounts[0]])).toEqual([
      ["b1", "upper-left.frame"],
      ["b2", "upper-right.frame"],
    ]);
    expect(changed.brackets!.map(faceOf)).toEqual(["0 -1 0", "0 1 0"]);
    expect(changed.brackets!.map((one) => awayOf(changed, one))).toEqual([50, 50]);
    const moved = withSizes(changed, changed.brackets![0]!, {
      ...sizesOf(changed, changed.brackets![0]!),
      away: 62,
      plate: 8,
    });
    expect(moved.brackets!.map((one) => [awayOf(moved, one), one.plate])).toEqual([
      [62, 8],
      [62, 8],
    ]);
    expect(moved.brackets!.map(({ weld }) => weld)).toEqual([null, null]);
    const welded = withSizes(moved, moved.brackets![0]!, { ...sizesOf(moved, moved.brackets![0]!), weld: 5 });
    expect(welded.brackets!.map(({ weld }) => weld)).toEqual([5, 5]);
    expect(withSizes(moved, moved.brackets![0]!, null).brackets).toEqual([]);
  });

  it("says a stock for every size of tube and plate", () => {
    const changed = {
      ...withTube(design, "upper-left", { diameter: 44.45, wall: 4.8 }),
      brackets: [bracketAt(spot("lower-left.axle"), "tube", "b1")],
    };
    const file = stockFile(changed, useStock.getState().stock);
    expect(file.tubes.map(({ diameter }) => diameter).sort()).toEqual([44.45, 50.8]);
    expect(file.plates).toEqual([{ thickness: 6.35, size: [1219.2, 609.6], count: 1 }]);
  });

  it("has a plate’s points in space, and millimeters of words as the screen has them", () => {
    const plate = { origin: [10, 20, 30], u: [1, 0, 0], v: [0, 0, 1] } as never;
    expect(spaceOf(plate, [5, -7])).toEqual([15, 20, 23]);
    expect(inUnits("it lies 25.4 mm off", "in16")).toBe("it lies 1 in off");
    expect(inUnits("it lies 25.4 mm off", "mm")).toBe("it lies 25.4 mm off");
  });
});

describe("loads", () => {
  it("says which part is weak and why, and takes the tube that would hold", async () => {
    const asked = open({
      "POST /api/loads": () => ok(LOADS),
      "POST /api/loads/tube": () =>
        ok({ diameter: 63.5, wall: 6.35, factor: 1.4, wanted: 1.25, case_words: "landing on full bump", mass: 1.2, nearer: 6.35 }),
    }); // prettier-ignore
    await area(<Loads id={7} document={design} units="in16" />);
    expect(find("[data-part=lower-left]").textContent).toContain("0.4");
    await press("Lower left link landing on full bump0.4");
    await settle();
    expect(said()).toContain("Its tube is guessed: 2 in by 1/4 in.");
    expect(said()).toContain("Look up: the axle joint's rating across its bolt");
    expect(said()).toContain("2 1/2 in by 1/4 in meets every case");
    expect(lastOf(asked, "POST /api/loads/tube")["part"]).toBe("lower-left");
    await press("Take that tube, and for its mirror image");
    expect(tubeOf(now(), "lower-right").diameter).toBe(63.5);
  });

  it("goes to the pose of the case that is drawn, and says pulled from pressed", async () => {
    useCase.setState({ id: "launch" });
    open({ "POST /api/loads": () => ok(LOADS) });
    await area(<Loads id={7} document={design} units="mm" />);
    expect(said()).toContain("9000 N, pressed");
    await pick("Load case drawn", "Landing on full bump");
    await settle();
    expect(useScrub.getState().travel).toBe(120);
    expect(said()).toContain("900 N, pulled");
    expect(said()).toContain("A strap or a shock would have to pull there.");
    await pick("Load case drawn", "Tow-hook");
    expect(said()).toContain("Nothing balances here");
  });

  it("says what lands on the frame, which way, and what it twists the rail by", async () => {
    open({ "POST /api/loads": () => ok(LOADS) });
    await area(<Loads id={7} document={design} units="mm" />);
    const table = find("section[aria-label='What lands on the frame']").textContent;
    expect(table).toContain("9000 N launchingback 8900, down 1300");
    expect(table).toContain("120 N·m brakingpasses it by 51 mm, left rail");
    expect(table).toContain("4000 N brakingforward 4000–");
    expect(table).toContain("The left rail is open.");
  });

  it("takes what was typed of grip, and says what a refusal says", async () => {
    open({ "POST /api/loads": () => refused("no room for springs") });
    await area(<Loads id={7} document={design} units="mm" />);
    expect(said()).toContain("no room for springs");
    await type("Grip fore-aft (guessed)", "0.7");
    await submitted("What the cases rest on");
    await settle();
    expect(now().loads).toEqual({ grip: 0.7 });
  });
});

describe("cases of one's own", () => {
  const blank = {
    name: "Tow hook",
    travel: "",
    twist: "",
    left: ["", "", ""],
    right: ["", "", ""],
    driven: false,
    abuse: false,
  };

  it("reads forces in the screen's units or in the unit that is typed, and nothing for what is left empty", () => {
    const read = caseFrom(
      { ...blank, travel: "-50", twist: "3", left: ["1000", "", "2 kN"], abuse: true },
      [],
      "mm",
    );
    expect(read).toEqual({ id: "Tow hook", travel: -50, articulation: 3, left: [1000, 0, 2000], right: [0, 0, 0], driven: false, abuse: true }); // prettier-ignore
    const pounds = caseFrom({ ...blank, right: ["", "-100", ""] }, [], "in16") as { right: number[] };
    expect(pounds.right[1]).toBeCloseTo(-444.82, 1);
  });

  it("says what is wrong in words", () => {
    const wrong = (more: object, taken: never[] = []) => caseFrom({ ...blank, ...more }, taken, "mm");
    expect(wrong({ name: " " })).toBe("Give the case a name.");
    expect(wrong({})).toBe("Give the case a force.");
    expect(wrong({ left: ["1", "", ""] }, [{ id: "Tow hook" }] as never[])).toBe("There is a case called Tow hook already."); // prettier-ignore
    expect(wrong({ left: ["", "x", ""] })).toContain("Left tire, to the left:");
    expect(wrong({ travel: "far", left: ["1", "", ""] })).toContain("Travel:");
    expect(wrong({ twist: "much", left: ["1", "", ""] })).toContain("Articulation:");
  });

  it("is said as it pushes", () => {
    const one = { id: "Winch", travel: -50.8, articulation: 0, left: [-1000, 0, 500] as never, right: [0, 20, 0] as never, driven: true, abuse: false }; // prettier-ignore
    expect(caseSaid(one, "mm")).toBe(
      "51 mm of droop; left tire 1000 N backward, 500 N up; right tire 20 N to the left; driven",
    );
  });

  it("is added, outlasts the page while it is typed, and is left out again", async () => {
    sessionStorage.clear();
    open({});
    const own = (standing: number | null = null) => (
      <OwnCases document={now()} units="mm" standing={standing} />
    );
    await area(own(9000));
    await press("A tow hook, a winch, a jack point");
    expect(field("Left tire, up, N").value).toBe("9000");
    leavePage();
    await area(own());
    await press("A tow hook, a winch, a jack point");
    await type("Called", "Winch");
    leavePage();
    await area(own());
    await press("A tow hook, a winch, a jack point");
    expect(field("Called").value).toBe("Winch");
    await submitted("A case of your own");
    expect(said()).toContain("Give the case a force.");
    await type("Left tire, forward, N", "4000");
    await submitted("A case of your own");
    await settle();
    expect(now().loads!.cases).toMatchObject([{ id: "Winch", left: [4000, 0, 0] }]);
    leavePage();
    await area(own());
    expect(said()).toContain("Winch: at ride; left tire 4000 N forward; right tire nothing.");
    await press("Leave out Winch");
    await settle();
    expect(now().loads!.cases).toEqual([]);
    sessionStorage.clear();
  });
});

describe("bars", () => {
  it("says a bar as it is made, and takes an end from the generic ones", async () => {
    open({ "POST /api/cut": () => ok(CUT) });
    await area(<Bars id={7} document={design} units="mm" />);
    expect(said()).toContain("no tube left");
    expect(said()).not.toContain("a hole lies");
    expect(find("[data-bar=lower-right]").textContent).toContain("ends not said");
    await press(find("[data-bar=lower-left]").textContent);
    expect(said()).toContain("Threads: right at the frame.");
    expect(said()).toContain("its joint comes off to turn it");
    expect(said()).toContain("Then 640 mm straight.");
    await pick("End at the axle", "Rod end, 3/4-16");
    await settle();
    expect(now().joints!["rod_end_19"]).toBeDefined();
    await type("Wall", "4.8");
    await submitted("Tube");
    await settle();
    expect(tubeOf(now(), "lower-right").wall).toBe(4.8);
  });
});

describe("brackets", () => {
  it("draws one, shows its plates, sizes it and takes it out", async () => {
    open({ "POST /api/cut": () => ok(CUT) });
    await area(<Brackets id={7} document={design} units="mm" />);
    expect(said()).toContain("a hole lies 3 mm from the axle tube");
    expect(said()).not.toContain("no tube left");
    await pick("Mount", "Lower left, axle end");
    await press("Draw it");
    await settle();
    expect(now().brackets).toHaveLength(2);
    leavePage();
    await area(<Brackets id={7} document={now()} units="mm" />);
    await press(find("[data-bracket=b1]").textContent);
    expect(find("svg[role=img]").getAttribute("aria-label")).toBe("Plate b1-1");
    expect(said()).toContain("b1-2, as b1-1");
    await type("Plate", "9.5");
    await submitted("Bracket");
    await settle();
    expect(now().brackets!.map(({ plate }) => plate)).toEqual([9.5, 9.5]);
    await press("Leave it out, and its mirror image");
    await settle();
    expect(now().brackets).toEqual([]);
  });
});

const BOLTS = {
  friction: 0.2, preload: 0.75,
  grades: [
    { id: "grade-8", words: "Grade 8 (inch)", proof: 827, yield_stress: 896, up_to: 38.1 },
    { id: "8.8", words: "8.8 (metric), up to M16", proof: 580, yield_stress: 640, up_to: 16 },
  ],
  bolts: [
    { mount: "lower-left.axle", diameter: 15.875, yield_stress: 896, grade: "grade-8", torque: 287, bush: true,
      worst: factor("bolt_axle", 0.9, "stop") },
    { mount: "lower-right.axle", diameter: null, yield_stress: null, grade: null, torque: null, worst: null, bush: null },
    { mount: "upper-left.axle", diameter: 13.5, yield_stress: 700, grade: null, torque: null, worst: null, bush: false },
  ],
}; // prettier-ignore

describe("bolts", () => {
  const fastener = () => (now().links[1] as { axle: { fastener?: unknown } }).axle.fastener;
  const opened = async (name: string) => {
    open({ "POST /api/bolts": () => ok(BOLTS) });
    await area(<Bolts id={7} document={design} units="in16" />);
    await press(find(`[data-bolt="${name}"]`).textContent);
  };

  it("says what one is tightened with, when, and what it carries", async () => {
    await opened("lower-left.axle");
    expect(find('[data-bolt="lower-left.axle"]').textContent).toContain("212 lb·ft");
    expect(said()).toContain("0.9 landing on full bump; 1.25 wanted");
    expect(said()).toContain("a bush that is clamped elsewhere is wound up at ride");
  });

  it("takes a size and a grade together, for both of a pair, and no grade that nobody said", async () => {
    await opened("lower-right.axle");
    expect(said()).toContain("Say its diameter first");
    await type("Bolt, diameter", "3/4");
    await submitted("Bolt");
    await settle();
    expect(fastener()).toBeUndefined();
    const offered = [...document.querySelectorAll("option")].map(({ text }) => text.trim()).filter(Boolean);
    expect(offered).toEqual(["Grade 8 (inch)"]); // no 8.8 of that kind is so thick
    await pick("Grade, as stamped on its head", "Grade 8 (inch)");
    await settle();
    expect(fastener()).toEqual({ diameter: expect.closeTo(19.05) as number, yield: 896, planes: 2 });
    expect((now().links[0] as { axle: { fastener?: unknown } }).axle.fastener).toEqual(fastener());
  });

  it("says of a thread that is not common that its maker says its torque", async () => {
    await opened("upper-left.axle");
    expect(find('[data-bolt="upper-left.axle"]').textContent).toContain("thread not known");
    expect(said()).toContain("its maker’s to say");
    expect(said()).toContain("700 MPa, no common grade");
    expect(said()).toContain("At any height");
  });
});

describe("to the shop", () => {
  it("lays parts out on what is in stock, says what has no place, and opens the archive of what is stored", async () => {
    const given = vi.spyOn(URL, "createObjectURL").mockReturnValue("blob:x");
    const looks = [{ state: "going", share: 0.45 }, { state: "done", share: 1, result: { data: btoa("PK") } }]; // prettier-ignore
    const asked = open({
      "POST /api/cut": () => ok(CUT),
      "POST /api/designs/7/shop": () => ok({ number: "n1" }),
      "GET /api/work/shop_files/n1": () => ok({ result: null, message: "", faults: [], ...looks.shift() }),
    });
    await area(<Shop id={7} document={{ ...design, brackets: [bracketAt(spot("lower-left.axle"), "tube", "b1")] }} units="in16" />);
    expect(said()).toContain("how its ends are made is not known");
    expect(said()).toContain("1 bar has no cut length");
    expect(find("svg[role=img]").getAttribute("aria-label")).toBe("Sheet with b1-1");
    await press("All files, patterns on Letter");
    await vi.waitFor(() => expect(said()).toContain("Making the files: 45 %"), 30_000);
    await vi.waitFor(() => expect(said()).toMatch(/-r4\.zip is made/), 30_000);
    expect(lastOf(asked, "POST /api/designs/7/shop")).toEqual({ units: "in16", paper: "letter" });
    await vi.waitFor(() => expect(given).toHaveBeenCalledOnce(), 30_000);
    await press("Save it");
    expect(given).toHaveBeenCalledTimes(2);
    given.mockRestore();
    await type("Tubes of each size", "7");
    await submitted("In stock");
    expect(useStock.getState().stock.tubes).toBe(7);
    await type("Sheets of each thickness", "many");
    await submitted("In stock");
    expect(said()).toContain("Sheets of each thickness: Type a number.");
  });

  it("says what is made otherwise since it was taken there, and has the files of then", async () => {
    useTaken.setState({ taken: {} });
    const opened = vi.fn();
    vi.stubGlobal("open", opened);
    const asked = open({
      "POST /api/cut": () => ok(CUT),
      "POST /api/designs/7/shop": () => ({ status: 429, body: { message: "The server has no time.", faults: [] } }),
      "POST /api/cut/since": () => ok({ lines: ["Upper left link: 5 mm longer"] }),
    });
    await area(<Shop id={7} document={design} units="mm" />);
    expect(said()).not.toContain("Since revision");
    await press("All files, patterns on A4");
    await settle();
    expect(said()).toContain("Since revision 4 was taken");
    expect(said()).toContain("The server has no time.");
    expect(said()).toContain("Upper left link: 5 mm longer");
    expect(lastOf(asked, "POST /api/cut/since")["before"]).toEqual({ ...design, room: null });
    await press("Files of revision 4 again");
    expect(opened.mock.calls.at(-1)![0]).toBe("/api/designs/7/shop.zip?units=mm&revision=4");
    useTaken.setState({ taken: {} });
  });

  it("saves a nested sheet as a drawing, or says why not", async () => {
    const made = vi.spyOn(URL, "createObjectURL").mockReturnValue("blob:x");
    let refuse = false;
    const asked = open({
      "POST /api/cut": () => ok(CUT),
      "POST /api/cut/sheet": () => (refuse ? refused("is none of this nest") : ok({ text: "0\nEOF\n" })),
    });
    await area(<Shop id={7} document={{ ...design, brackets: [bracketAt(spot("lower-left.axle"), "tube", "b1")] }} units="mm" />);
    await press("Save sheet 1 as DXF");
    await settle();
    expect(lastOf(asked, "POST /api/cut/sheet")["sheet"]).toBe(0);
    expect(made).toHaveBeenCalledTimes(1);
    refuse = true;
    await press("Save sheet 1 as DXF");
    await settle();
    expect(said()).toContain("is none of this nest");
    made.mockRestore();
  });
}); // prettier-ignore

const mark = (at: number[], more: object = {}) => ({
  at,
  clock: null,
  wheel: null,
  housing: null,
  under: null,
  ...more,
});
const MARKS = {
  pinion: 9, faults: [{ path: "brackets[2].edge", message: "too small" }],
  brackets: [
    { id: "b1", mounts: ["lower-left.axle"], on: "tube", spacer: 52.8, width: 50, off: 84.1, hole:  mark([70, 517, 397], { clock: 124.3 }),
      plates: [
        { part: "b1-1", ends: [mark([32, 491.1, 470], { clock: 47.3, wheel: 258.9 }),  mark([-16, 491.1, 403], { clock: -158.7, wheel: 258.9 })] },
        { part: "b1-2", ends: [mark([32, 543.9, 470], { clock: 47.3 }),  mark([-16, 543.9, 403], { clock: -158.7 })] },
      ] },
    { id: "b2", mounts: ["lower-left.frame"], on: "face", spacer: 50.8, width: 50, off: 60, hole:  mark([984, 343, 464]),
      plates: [
        { part: "b2-1", ends: [mark([1039, 317, 523], { under: -48 }),  mark([929, 317, 523], { under: -48 })] },
        { part: "b2-2", ends: [mark([984, 317, 480]),  mark([984, 317, 560])] },
      ] },
  ],
  axle: [{ a: "lower-left.axle", b: "lower-right.axle", apart: 1035.05 }], frame: [],
  square: [{ a: "lower-left.axle", b: "lower-right.frame", apart: 1257.3 }, { a: "lower-right.axle", b: "lower-left.frame", apart: 1257.3 }],
  truss: [],
}; // prettier-ignore

describe("mark-out", () => {
  it("says stations and angles on the tube, stations and heights on a face, spacers and distances", async () => {
    open({ "POST /api/mark-out": () => ok(MARKS) });
    await area(<MarkOut id={7} document={design} units="in16" />);
    for (const words of [
      "b1: Lower left, axle end", "b1-1, upper", "19 5/16 in +0.022", "47.3°", "0° is straight up with the pinion set 9.0° nose up",
      "Weld over a spacer of 2 1/16 in +0.016", "b2-1, front", "b2-2, upper", "Lower left, axle end to Lower right, axle end", "40 3/4 in",
      "One bracket can’t be made as drawn", "Alike two by two",
    ]) expect(said()).toContain(words); // prettier-ignore
    clear();
    await area(<MarkOut id={7} document={design} units="mm" />);
    expect(said()).toContain("491 mm");
    expect(said()).not.toContain("in inches");
  });

  it("takes what stations are measured from, and leaves out what is left empty", async () => {
    const asked = open({ "POST /api/mark-out": () => ok({ ...MARKS, brackets: [], faults: [] }) });
    await area(<MarkOut id={7} document={design} units="mm" />);
    expect(said()).toContain("draw one at Brackets");
    await type("Wheel faces apart", "wide");
    await submitted("Faces to measure from");
    expect(now().axle.wheel_faces).toBeUndefined();
    await type("Wheel faces apart", "1500");
    await type("Center to left tube", "180");
    await submitted("Faces to measure from");
    await settle();
    expect(now().axle).toMatchObject({ wheel_faces: 1500, housing_left: 180 });
    expect(asked.some(({ line }) => line === "POST /api/mark-out")).toBe(true);
  });

  it("says why where the core refuses", async () => {
    open({ "POST /api/mark-out": () => refused("no such plate") });
    await area(<MarkOut id={7} document={design} units="mm" />);
    expect(said()).toContain("no such plate");
  });
});
