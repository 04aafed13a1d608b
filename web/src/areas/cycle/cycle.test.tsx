import { afterEach, describe, expect, it, vi } from "vitest";

import front from "../../../../server/builds/demo/fell-tender-front.json";
import rear from "../../../../server/builds/demo/fell-tender-rear.json";
import type { Document } from "../../document/document";
import { useDesign } from "../../state/design";
import { useScrub } from "../../state/scrub";
import { useSelection } from "../../state/selection";
import { useSolver } from "../../state/solver";
import { useTruck } from "../../state/truck";
import { clear, find, press, said, settle, shown, submit, type } from "../../testing/screen";
import { lastOf, ok, serve } from "../../testing/server";
import { finding, solvedTender } from "../../testing/solved";
import { Complaints } from "./Complaints";
import { Curves } from "./Curves";
import { CycleMap } from "./CycleMap";
import { Driveline } from "./Driveline";
import { standalone } from "./exporting";
import { HandCheck } from "./HandCheck";
import { Joints } from "./Joints";
import { PATHS } from "./paths";
import { levelsOf } from "./contours";
import { pathOf, ticksOf } from "../../figures/plots";
import { badness, linesOf } from "./plotting";
import { Schools } from "./Schools";
import { acrossOf, Steering } from "./Steering";

const tender = rear as unknown as Document;
const ahead = front as unknown as Document;

function open(document: Document, answers: Parameters<typeof serve>[0] = {}) {
  const revision = {
    design: 7, build: 3, build_name: "Fell tender", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z", document,
  }; // prettier-ignore
  useTruck.setState({ truck: null, since: null, trouble: null });
  useSelection.setState({ chosen: [], finding: null });
  useScrub.setState({ travel: 0, articulation: 0 });
  useDesign.setState({
    stored: revision, document, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
  } as never); // prettier-ignore
  return serve({
    "POST /api/designs/7/revisions": (body) => ok({ ...revision, number: 5, document: body["document"] }),
    "POST /api/gaps": () => ok([]),
    ...answers,
  });
}
const now = () => useDesign.getState().document!;
const given = (document: Document) => ({
  document,
  units: "mm" as const,
  solved: { ...solvedTender(), document },
});

let leave: (() => void) | null = null;
const leaving = async (what: Parameters<typeof shown>[0]) => {
  leave = (await shown(what)).leave;
};

afterEach(() => {
  leave?.();
  leave = null;
  clear();
  vi.unstubAllGlobals();
});

describe("curves", () => {
  it("break where there is nothing, and are worst where they are farthest out", () => {
    const straight = (v: number) => v;
    expect(pathOf([0, 1, 2, 3, 4], [1, 2, null, 3, 4], straight, straight).match(/M/g)).toHaveLength(2);
    expect(badness(5, [null, 3])).toBe(2);
    expect(badness(5, [7, null])).toBe(2);
    const panel = { along: [-1, 0, 1], values: [1, 2, 9] };
    const size = {
      range: [1, 9] as [number, number],
      least: 1,
      wide: 100,
      high: 50,
      band: [null, 5] as const,
    };
    const drawn = linesOf(panel, null, size)!;
    expect(drawn.worst![0]).toBe(100);
    expect(drawn.band![0]).toBeGreaterThan(0);
    expect(linesOf({ along: [], values: [] }, null, size)).toBeNull();
    expect(drawn.zero).toBeNull();
    expect(drawn.ends.map((v) => Math.round(v))).toEqual([1, 9]);
    expect(linesOf({ along: [0, 1], values: [-2, 2] }, null, { ...size, range: [-2, 2] })!.zero).toBe(25);
    expect(ticksOf(0, 4, (v) => String(Math.round(v / 4)))).toHaveLength(2);
    expect(ticksOf(-60, 60, (v) => String(v / 25.4), 25.4).map(([, words]) => words)).toEqual([
      "-2",
      "-1",
      "0",
      "1",
      "2",
    ]);
    expect(ticksOf(-171, 121, String).map(([at]) => at)).toEqual([-150, -100, -50, 0, 50, 100]);
  });

  it("stand on one sheet with a title and the caution, and are taken out as a file of its own", async () => {
    open(tender, { "POST /api/map": () => ok({ travel: [-1, 0, 1], articulation: [-1, 0, 1], fields: { gap_spare: [[1, 2, 3], [4, 5, 6], [7, 8, 9]] }, allowed: [] }) }); // prettier-ignore
    await leaving(<Curves {...given(tender)} />);
    await settle();
    expect(said()).toContain("Fell tender, rear, revision 4");
    expect(said()).toContain("An estimate from the figures entered, not an approval.");
    const gap = document.querySelector('[aria-label^="Least gap"]')!.getAttribute("aria-label");
    expect(gap).toContain("over the travel 2 mm to 8 mm, over the twist 4 mm to 6 mm");
    const svg = document.querySelector<SVGSVGElement>("svg.whole-cycle")!;
    const file = standalone(svg, (name) => (name === "--ink" ? "#123456" : "#ffffff"));
    expect(file).toContain('xmlns="http://www.w3.org/2000/svg"');
    expect(file).toContain("#123456");
    expect(file).not.toContain("var(--");
  });
});

describe("paths", () => {
  it("start and end at ride and stay within the reach", () => {
    const reach = { bump: 100, droop: 200, articulation: 10 };
    for (const [, along] of PATHS) {
      expect(along(0, reach)).toEqual({ travel: 0, articulation: 0 });
      expect(along(1, reach).travel).toBeCloseTo(0);
      for (let part = 0; part <= 1; part += 0.05) {
        const { travel, articulation } = along(part, reach);
        expect(travel).toBeGreaterThanOrEqual(-200);
        expect(travel).toBeLessThanOrEqual(100);
        expect(Math.abs(articulation)).toBeLessThanOrEqual(10);
      }
    }
  });
});

describe("lines of equal value", () => {
  const [x, y] = [(n: number) => 100 * n, (n: number) => 50 * n];
  const points = (path: string) => path.split(/[ML]/).filter(Boolean).map((at) => at.split(" ").map(Number));

  it("run where the field has that value, at even steps, and say it on the line", () => {
    const plane = Array.from({ length: 6 }, (_, row) => Array.from({ length: 8 }, (__, column) => 2 * column - row));
    const levels = levelsOf(plane, x, y);
    expect(levels.length).toBeGreaterThan(5);
    const steps = levels.slice(1).map(({ value }, n) => value - levels[n]!.value);
    expect(new Set(steps.map((step) => step.toFixed(6))).size).toBe(1);
    for (const { value, path, label } of levels) {
      for (const [px, py] of [...points(path), ...(label ? [label] : [])])
        expect(Math.abs((2 * px) / 100 - py / 50 - value)).toBeLessThan(0.02);
    }
    expect(levels.some(({ label }) => label !== null)).toBe(true);
  });

  it("are none where all is the same, and keep off what has no value", () => {
    expect(levelsOf([[1, 1], [1, 1]], x, y)).toEqual([]);
    const holed = Array.from({ length: 6 }, (_, row) => Array.from({ length: 8 }, (__, column) => (column > 5 ? null : column + 0 * row)));
    for (const { value, path } of levelsOf(holed, x, y)) for (const [px] of points(path)) expect(px! / 100).toBeCloseTo(value, 1);
  });
}); // prettier-ignore

describe("the map", () => {
  it("says its values in words too, and what is held back", async () => {
    const asked = open(tender, {
      "POST /api/map": () =>
        ok({
          travel: [-100, 0, 100], articulation: [-10, 0, 10], fields: { yaw: [[1, 0, -1], [0.5, 0, -0.5], [2, 0, -2]] },
          allowed: [[false, true, true], [true, true, true], [true, true, false]],
        }), // prettier-ignore
    });
    await leaving(<CycleMap {...given(tender)} />);
    await settle();
    expect(lastOf(asked, "POST /api/map")).toMatchObject({ gaps: false });
    expect(find("svg[role=img]").getAttribute("aria-label")).toContain("from −2.0° to 2.0°");
    expect(said()).toContain("hatched: stops and straps hold it back");
    expect(document.querySelectorAll(".held")).toHaveLength(2);
    expect(said()).toContain("10° right up");
  });
});

describe("the driveline", () => {
  it("is added where there is none", async () => {
    open({ ...tender, driveshaft: null });
    await leaving(<Driveline {...given({ ...tender, driveshaft: null })} />);
    expect(said()).toContain("No driveshaft yet");
    await press("Add a driveshaft");
    expect(now().driveshaft?.kind).toBe("two_joints");
    expect(now().driveshaft!.case.joint[0]).toBeGreaterThan(tender.axle.pinion.joint[0]);
  });

  it("says what to turn from what was read, and sets it", async () => {
    const angles = {
      pinion: 9,
      case_joint: 2,
      pinion_joint: 3,
      difference: -1,
      unsteady: 0.1,
      unsteady_most: 0.4,
      caster: null,
    };
    const turned = { read: 9, turn: -4.2, way: "its nose down", before: angles, after: { ...angles, pinion: 4.8 }, moved: 24.2, soft: "Set 1.5 degrees under that at rest.", lengths: [{ part: "upper-left", words: "upper left link", by: -3.2, turns: 1.1 }], as_read: { ...tender, name: "read" }, document: { ...tender, name: "turned" } }; // prettier-ignore
    const asked = open(tender, {
      "POST /api/shaft/turn": () => ok({ aim: { wanted: 6.3, reason: "Along the shaft." }, turned }),
      "POST /api/runs/effects": () => ok([]),
    });
    await leaving(<Driveline {...given(tender)} />);
    const [read] = [
      ...document.querySelectorAll<HTMLInputElement>('form[aria-label="Read on the gauge"] input'),
    ];
    await type(read!, "steep");
    await submit(find('form[aria-label="Read on the gauge"]'));
    expect(said()).toContain("Type a number.");
    await type(read!, "9");
    await submit(find('form[aria-label="Read on the gauge"]'));
    await settle();
    expect(lastOf(asked, "POST /api/shaft/turn")).toMatchObject({
      value: 9,
      zero: "level",
      face: "along",
      how: "brackets",
      soft: 1.5,
    });
    expect(said()).toContain("Turn it 4.2°, its nose down.");
    expect(said()).toContain("Along the shaft.");
    expect(said()).toContain("Set 1.5 degrees under that");
    expect(said()).toContain("Upper left link: 3 mm shorter, 1.1 turns");
    await press("Set it as it was read");
    expect(now().name).toBe("read");
    await press("Set the design’s pinion so");
    expect(now().name).toBe("turned");
  });
});

describe("the steering", () => {
  it("lies beside the panhard bar in figures", async () => {
    expect(acrossOf([0, -400, 500], [0, 400, 500 + 800 * Math.tan(Math.PI / 18)]).slope).toBeCloseTo(10);
    open(ahead);
    await leaving(<Steering {...given(ahead)} />);
    expect(said()).toContain("Slope from behind");
    expect(said()).not.toContain("They run opposite ways");
  });

  it("says where bar and link run opposite ways, and is added where there is none", async () => {
    const crossed = structuredClone(ahead);
    [crossed.steering!.pitman[1], crossed.steering!.knuckle[1]] = [-300, 560];
    open(crossed);
    await leaving(<Steering {...given(crossed)} />);
    expect(said()).toContain("They run opposite ways");
    leave?.();
    clear();
    open({ ...ahead, steering: null });
    await leaving(<Steering {...given({ ...ahead, steering: null })} />);
    await press("Add drag link and tie rod");
    expect(now().steering?.kingpin.at[1]).toBeLessThan(0);
  });
});

const joint = (name: string, turns: number, best: number | null) => ({
  name, words: name, entry: null, limit: 28, turns, place: { travel: 50, articulation: -5, parts: [name] },
  best: best === null ? null : [0.1, 0.99, 0], best_turns: best, left: 28 - turns,
}); // prettier-ignore

describe("joints", () => {
  it("stand the nearest to its limit first; their bolt is turned and their end said, with the mirror image", async () => {
    open(tender, {
      "POST /api/joints": () =>
        ok({
          joints: [joint("lower-left.axle", 4, null), joint("upper-left.frame", 26, 12)],
          softer: [{ link: "upper-left", words: "upper left link", end: "axle", turns: 8, other: 26 }],
        }),
    });
    await leaving(<Joints {...given(tender)} />);
    await settle();
    expect(
      [...document.querySelectorAll("[data-joint]")].map((row) => row.getAttribute("data-joint")),
    ).toEqual(["upper-left.frame", "lower-left.axle"]);
    find('[data-joint="upper-left.frame"]').click();
    await settle();
    expect(useScrub.getState()).toEqual({ travel: 50, articulation: -5 });
    expect(said()).toContain(
      "A softer end goes at the axle: it turns 8.0° there and 26.0° at the other end.",
    );
    await press("Turn the bolt: 16.0° left");
    const bolts = now().links.map((link) => (link.frame as { bolt?: number[] }).bolt);
    expect(bolts[2]).toEqual([0.1, 0.99, 0]);
    expect(bolts[3]).toEqual([0.1, -0.99, 0]);
  });

  it("have a catalog of ends that is added to", async () => {
    open(tender, { "POST /api/joints": () => ok({ joints: [], softer: [] }) });
    await leaving(<Joints {...given(tender)} />);
    await settle();
    const fields = [...document.querySelectorAll<HTMLInputElement>('form[aria-label="Add an end"] input')];
    await submit(find('form[aria-label="Add an end"]'));
    expect(said()).toContain("Give it a name.");
    for (const [n, text] of ["Long shank", "32", "1", "10000"].entries()) await type(fields[n]!, text);
    await submit(find('form[aria-label="Add an end"]'));
    await settle();
    expect(now().joints).toMatchObject({
      long_shank: { name: "Long shank", limit: 32, give: 1, rating: 10000 },
    });
  });
});

describe("schools", () => {
  it("lie over each other with their words, and one is looked at before it is taken", async () => {
    const curves = {
      travel: [-1, 0, 1],
      turn: [1, 0, 2],
      anti: [50, 60, 70],
      fore_aft: [0, 0, 0],
      sideways: [0, 0, 0],
    };
    const variant = (id: string, says: string) => ({
      id,
      name: id,
      made: "",
      says,
      curves,
      document: { ...tender, name: id },
    });
    open(tender, { "POST /api/schools": () => ok([variant("own", ""), variant("short", "Turns it less.")]) });
    await leaving(<Schools {...given(tender)} />);
    await settle();
    expect(said()).toContain("Turns it less.");
    expect(find('[aria-label^="Pinion, nose up by each school"]').querySelectorAll("path")).toHaveLength(3);
    await press("Look at it");
    expect(now().name).toBe(tender.name);
    await press("Take it");
    expect(now().name).toBe("short");
  });
});

describe("a hand cycle", () => {
  const hand = [{ travel: 50, articulation: 0, figure: "pinion_change", value: 3 }];

  it("is typed reading by reading at the scrubbers' pose", async () => {
    open(tender);
    useScrub.setState({ travel: 40, articulation: 0 });
    await leaving(<HandCheck {...given(tender)} />);
    await type(find('form[aria-label="Add a reading"] input'), "1.5");
    await submit(find('form[aria-label="Add a reading"]'));
    await settle();
    expect((now() as { hand?: unknown }).hand).toEqual([
      { travel: 40, articulation: 0, figure: "pinion_change", value: 1.5 },
    ]);
  });

  it("says where it parts from the prediction and what would explain it", async () => {
    const measured = { ...tender, hand } as unknown as Document;
    open(measured, {
      "POST /api/hand": () =>
        ok({
          laid: [{ reading: 0, predicted: 1, parts: true }],
          explained: [
            {
              words: "the upper left link frame end stands 12 mm farther up than was typed",
              by: 12,
              left: 0.05,
            },
          ],
        }),
    });
    await leaving(<HandCheck {...given(measured)} />);
    await settle();
    expect(said()).toContain("2.0°, too far");
    expect(said()).toContain(
      "The upper left link frame end stands 12 mm farther up than was typed: leaves 5 %",
    );
    await press("Leave out reading 1");
    await settle();
    expect((now() as { hand?: unknown }).hand).toBeNull();
  });
});

describe("complaints", () => {
  it("say what stands out, what does not and what is not known, and lead to what it takes", async () => {
    const cause = (figure: string, stands_out: boolean | null) => ({
      figure, name: figure, how: "how", finding: stands_out === null ? null : figure, value: stands_out === null ? null : 6,
      unit: stands_out === null ? null : "deg", low: null, high: 4, stands_out,
    }); // prettier-ignore
    const causes = [cause("pinion_change", true), cause("swing", false), cause("bump_steer", null)];
    const solved = solvedTender([finding("pinion_change", { title: "Pinion change", severity: "fix" })]);
    open(tender, {
      "POST /api/cycle": () => ok(solved.answer),
      "POST /api/complaints": () => ok([{ complaint: "shakes", words: "It shakes", causes }]),
      "POST /api/cures": () => ok([]),
      "POST /api/slack": () => ok([]),
    });
    useSolver.setState({ solved });
    await leaving(<Complaints document={tender} units="mm" solved={solved} />);
    await settle();
    expect(said()).toContain("1 figure stands out");
    expect(said()).toContain("Nothing is known here of: bump_steer.");
    await press("What it takes to change it");
    expect(useSelection.getState().finding).toBe("pinion_change");
  });
});
