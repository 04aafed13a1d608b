import { act } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { outlinesOf } from "../floor/KeepOuts";
import { useScrub } from "../state/scrub";
import { clear, find, said, settle, shown } from "../testing/screen";
import { lastOf, ok, serve } from "../testing/server";
import { finding, tender } from "../testing/solved";
import { useDesign } from "../state/design";
import { useSolver } from "../state/solver";
import { type Gap, GapLine, Gaps, partWords, useGap } from "./Gaps";

const gap = (a: string, b: string, mm: number, more: Partial<Gap> = {}): Gap => ({
  a, b, gap: mm, wanted: 25.4, travel: -100, articulation: 8, at_a: [100, 200, 400], at_b: [100, 200, 420], ...more,
}); // prettier-ignore
const PAIRS = [
  gap("lower-left", "axle-tube", 0, { at_a: null, at_b: null }),
  gap("upper-left", "tank", 12.7),
  gap("upper-right", "tank", 30),
];
const room = {
  keep_outs: [{ id: "tank", name: "Fuel tank", on: "frame", solid: { kind: "box", center: [0, 0, 900], size: [100, 100, 100] } }],
}; // prettier-ignore
const document = { ...tender, room } as unknown as typeof tender;
const between = (...parts: string[]) => ({ travel: 0, articulation: 0, parts });
const FINDINGS = [
  finding("gap lower-left axle-tube", { severity: "stop", place: between("lower-left", "axle-tube") }),
  finding("gap upper-right tank", {
    severity: "fix",
    place: between("upper-right", "tank", "upper-left", "tank"),
  }),
];
const known = (pairs: Gap[], findings = FINDINGS) =>
  useSolver.setState({ gaps: { pairs, findings, document }, gapsFailed: null });

beforeEach(() => {
  useScrub.setState({ travel: 0, articulation: 0 });
  useGap.setState({ pair: null, here: null });
  useSolver.setState({ gaps: null, gapsFailed: null });
});
afterEach(() => {
  useDesign.setState({ document: null });
  clear();
  vi.unstubAllGlobals();
});

describe("clearances", () => {
  it("are listed with the least to spare first, and counted", async () => {
    known(PAIRS.slice(0, 2));
    await shown(<Gaps document={document} units="in16" />);
    expect(said()).toContain("2 pairs are too near");
    expect(said()).toContain("Lower left and axle tube");
    expect(said()).toContain("they meet");
    expect(said()).toContain("Upper left and fuel tank");
    expect(said()).toContain("1/2 in");
  });

  it("say that everything clears, or why that can't be said", async () => {
    known([PAIRS[2]!], []);
    const { leave } = await shown(<Gaps document={document} units="mm" />);
    expect(said()).toContain("The one pair clears");
    expect(said()).toContain("the one keep-out that is drawn");
    leave();
    useSolver.setState({ gapsFailed: "axle.track: must be more than the tire's width" });
    await shown(<Gaps document={document} units="mm" />);
    expect(said()).toContain("must be more than the tire's width");
  });

  it("go to where a pair is nearest, follow it there, and drop it", async () => {
    const asked = serve({
      "POST /api/clear": () => ok({ pairs: PAIRS, findings: FINDINGS }),
      "POST /api/gaps": () => ok([gap("upper-left", "tank", 19.05)]),
    });
    useDesign.setState({ document, draft: null });
    await vi.waitFor(() => expect(useSolver.getState().gaps?.pairs).toEqual(PAIRS));
    await shown(<Gaps document={document} units="in16" />);
    act(() => find<HTMLButtonElement>('[data-gap="upper-left tank"]').click());
    await settle();
    expect(useScrub.getState()).toMatchObject({ travel: -100, articulation: 8 });
    expect(lastOf(asked, "POST /api/gaps")).toMatchObject({ travel: -100, articulation: 8 });
    expect(said()).toContain("in this pose: 3/4 in; 1 in is wanted");
    expect(useGap.getState().here!.gap).toBe(19.05);
    act(() => find<HTMLButtonElement>("button", "Drop it").click());
    expect(useGap.getState()).toEqual({ pair: null, here: null });
  });

  it("draw the nearest points where there are any", () => {
    const to = ([x, , z]: readonly number[]) => [x, z] as never;
    const drawn = (here: Gap) =>
      renderToStaticMarkup(<svg>{<GapLine here={here} to={to} units="mm" />}</svg>);
    expect(drawn(PAIRS[1]!)).toContain("13 mm");
    expect(drawn(PAIRS[0]!)).not.toContain("mm");
  });

  it("name keep-outs as the file does", () => {
    expect(partWords(document, "tank")).toBe("Fuel tank");
    expect(partWords(tender, "tire-left")).toBe("Tire left");
  });
});

describe("keep-outs on the floor", () => {
  const to = ([x, , z]: readonly number[]) => [x, z] as never;

  it("are drawn from their solids", () => {
    const box = outlinesOf(
      { kind: "box", center: [0, 0, 0], size: [100, 50, 20], turn: [0, 0, 0] } as never,
      to,
      1,
    );
    expect(box[0]).toContain("M-50 -10");
    const turned = outlinesOf(
      { kind: "box", center: [0, 0, 0], size: [100, 50, 20], turn: [0, 90, 0] } as never,
      to,
      1,
    );
    for (const corner of ["-10 50", "-10 -50", "10 -50", "10 50"]) expect(turned[0]).toContain(corner);
    const bent = outlinesOf({ kind: "tube", path: [[0, 0, 0], [90, 0, 0], [90, 0, 80]], diameter: 20 } as never, to, 1); // prettier-ignore
    expect(bent).toHaveLength(2);
    const prism = { kind: "prism", along: "y", from: -10, to: 10, outline: [[0, 0], [30, 0], [0, 40]] } as never; // prettier-ignore
    expect(outlinesOf(prism, to, 1).at(-1)).toBe("M0 0L30 0L0 40Z");
    expect(outlinesOf({ kind: "hull", points: [[0, 0, 0], [9, 0, 0], [0, 0, 9], [9, 5, 9]] } as never, to, 1)).toHaveLength(1); // prettier-ignore
  });
});
