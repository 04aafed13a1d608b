import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { spotsOf } from "../document/document";
import { dropOffer, holdResult, letGo, pullOnce, pullTo, takeOffer, usePulling } from "./pulling";
import { finding, solvedTender, tender } from "../testing/solved";
import { clearBehind, dropPreview, preview, takePreview, useBehind } from "./behind";
import { useDesign } from "./design";
import { clearSelection, goTo, pressing, useSelection } from "./selection";
import { useScrub } from "./scrub";

type Reply = { status: number; body: unknown } | "no server";
let answer: (url: string, body: Record<string, unknown>) => Reply;
let asked: { url: string; body: Record<string, unknown> }[];

const height = () =>
  spotsOf(useDesign.getState().document!).find((m) => m.name === "upper-left.frame")!.at[2];
const pulledTo = (z: number, met = true): Reply => ({
  status: 200,
  body: { at: { "upper-left.frame": [774.7, 419.1, z] }, got: [1], met, farthest: 1, free: 12, worse: [] },
});
const settled = () => new Promise((resolve) => setTimeout(resolve, 20));

beforeEach(() => {
  asked = [];
  localStorage.clear();
  clearSelection();
  clearBehind();
  vi.stubGlobal("fetch", (url: string, request: { body: string | null }) => {
    const body = request.body === null ? {} : (JSON.parse(request.body) as Record<string, unknown>);
    asked.push({ url, body });
    const reply = /\/api\/(cycle|look)$/.test(url)
      ? { status: 200, body: solvedTender().answer }
      : answer(url, body);
    if (reply === "no server") return Promise.reject(new TypeError("no server"));
    return Promise.resolve(new Response(JSON.stringify(reply.body), { status: reply.status }));
  });
  useDesign.setState({ document: tender, draft: null, stored: null, past: [], future: [] });
});

afterEach(() => vi.unstubAllGlobals());

describe("pulling a result", () => {
  const want = (value: number) => [{ figure: "anti_squat", travel: 0, articulation: 0, value }];

  it("asks from where it was taken hold of, newest wins, and letting go offers whole increments", async () => {
    answer = (_, body) => pulledTo(600 + (body["wanted"] as { value: number }[])[0]!.value);
    holdResult();
    for (const value of [1, 2, 3, 4, 5]) pullTo(want(value));
    await letGo(true);
    expect(height()).toBe(631.825);
    expect(useBehind.getState().behind?.name).toBe("what was pulled");
    const pulls = asked.filter((a) => a.url.endsWith("/api/pull"));
    expect(pulls.length).toBeLessThan(6);
    for (const { body } of pulls) expect(body["document"]).toEqual(tender);
    expect(pulls.at(-1)!.body["increment"]).toBeCloseTo(3.175, 9);
    expect(pulls[0]!.body["increment"]).toBeNull();
    takeOffer();
    expect(height()).toBe(605);
    expect(useDesign.getState().past).toHaveLength(1);
    expect(usePulling.getState().offered).toBeNull();
  });

  it("given up or dropped, puts everything back", async () => {
    answer = () => pulledTo(700);
    holdResult();
    pullTo(want(9));
    await letGo(false);
    expect(usePulling.getState().offered).toBeNull();
    await pullOnce(want(9));
    expect(usePulling.getState().offered).not.toBeNull();
    dropOffer();
    expect(height()).toBe(631.825);
    expect(useDesign.getState().past).toEqual([]);
    expect(useBehind.getState().behind).toBeNull();
  });

  it("gives way to an edit made while its answer was on the way", async () => {
    answer = () => pulledTo(700);
    const done = pullOnce(want(9));
    const edited = { ...tender, name: "Edited meanwhile" };
    useDesign.getState().edit(edited);
    await done;
    expect(useDesign.getState().document).toEqual(edited);
    expect(usePulling.getState().offered).toBeNull();
  });

  it("says what could not be reached, and offers the nearest", async () => {
    answer = () => pulledTo(640, false);
    await pullOnce(want(999));
    expect(usePulling.getState().short).toMatchObject({ got: [1], free: 12 });
    takeOffer();
    expect(height()).toBe(640);
  });

  it("what failed goes with its figure and its design", async () => {
    answer = () => pulledTo(640, false);
    useSelection.getState().read("anti_squat");
    await pullOnce(want(999));
    expect(usePulling.getState().of).toEqual(["anti_squat"]);
    useSelection.getState().read("roll_center");
    expect(usePulling.getState()).toMatchObject({ of: [], short: null, offered: null });
    await pullOnce(want(999));
    useDesign.setState({ stored: { design: 8 } as never });
    expect(usePulling.getState().short).toBeNull();
  });

  it("says when the server is gone or refuses, and leaves the design alone", async () => {
    answer = () => "no server";
    await pullOnce(want(1));
    expect(usePulling.getState().trouble).toContain("does not answer");
    answer = () => ({ status: 422, body: { message: "wanted: no such figure", faults: [] } });
    await pullOnce(want(1));
    expect(usePulling.getState().trouble).toBe("wanted: no such figure");
    expect(height()).toBe(631.825);
  });
});

describe("what is drawn behind", () => {
  const other = { ...tender, name: "Other" };

  it("a cure looked at gives way to what was pinned before", async () => {
    useBehind.getState().putBehind({ kind: "pinned", name: "revision 1", document: tender });
    preview("a cure", other);
    expect(useBehind.getState().behind).toMatchObject({ kind: "preview", name: "a cure" });
    dropPreview();
    expect(useBehind.getState().behind).toMatchObject({ kind: "pinned", name: "revision 1" });
    useBehind.getState().putBehind(null);
    expect(useBehind.getState().behind).toBeNull();
    await settled();
  });

  it("is worked out at the scrubber's place", async () => {
    preview("a cure", other);
    await settled();
    expect(useBehind.getState().behind?.answer?.here.columns["anti_squat"]).toEqual([60]);
    dropPreview();
  });

  it("taken, becomes the design, as one step", () => {
    preview("a cure", other);
    takePreview();
    expect(useDesign.getState().document).toEqual(other);
    expect(useDesign.getState().past).toHaveLength(1);
    expect(useBehind.getState().behind).toBeNull();
  });
});

describe("choosing", () => {
  it("one at a time, or one more with each", () => {
    const { choose } = useSelection.getState();
    choose("a");
    choose("b", true);
    expect(useSelection.getState().chosen).toEqual(["a", "b"]);
    choose("a", true);
    expect(useSelection.getState().chosen).toEqual(["b"]);
    choose("c");
    expect(useSelection.getState().chosen).toEqual(["c"]);
  });

  it("a reading, a finding or the construction: one of them", () => {
    useSelection.getState().read("anti_squat");
    useSelection.getState().find("swing");
    expect(useSelection.getState()).toMatchObject({ reading: null, finding: "swing", converging: false });
    useSelection.getState().converge(true);
    expect(useSelection.getState()).toMatchObject({ reading: null, finding: null, converging: true });
  });

  it("what presses comes in its order, without what is good", () => {
    const of = (severity: string) => ({ severity }) as Parameters<typeof pressing>[0][number];
    expect(pressing(["fix", "good", "consider"].map(of)).map((f) => f.severity)).toEqual(["fix", "consider"]);
  });
});

describe("a finding", () => {
  it("leads to the very pose that was judged, both halves of it", () => {
    goTo(finding("joint_angle", { place: { travel: -170, articulation: 13, parts: ["upper-left.frame"] } }));
    expect(useScrub.getState()).toEqual({ travel: -170, articulation: 13 });
    expect(useSelection.getState().finding).toBe("joint_angle");
  });

  it("that is no matter of a pose leaves the axle where it stands", () => {
    useScrub.setState({ travel: 40, articulation: 0 });
    goTo(finding("roll_center"));
    expect(useScrub.getState()).toEqual({ travel: 40, articulation: 0 });
  });
});
