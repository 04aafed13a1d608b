import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { useBuild } from "../../design/build";
import { mountsOf } from "../../design/document";
import { useDesign } from "../../design/store";
import { solvedTender, tender } from "../../testing/solved";
import { clearBench, dropPreview, pressing, preview, takePreview, useBench } from "./bench";
import { holdResult, letGo, pullOnce, pullTo, usePulling } from "./pulling";

type Reply = { status: number; body: unknown } | "no server";
let answer: (url: string, body: Record<string, unknown>) => Reply;
let asked: { url: string; body: Record<string, unknown> }[];

const height = () =>
  mountsOf(useDesign.getState().document!).find((m) => m.name === "upper-left.frame")!.at[2];
const pulledTo = (z: number, met = true): Reply => ({
  status: 200,
  body: { at: { "upper-left.frame": [774.7, 419.1, z] }, got: [1], met, farthest: 1, free: 12 },
});
const settled = () => new Promise((resolve) => setTimeout(resolve, 20));

beforeEach(() => {
  asked = [];
  localStorage.clear();
  clearBench();
  vi.stubGlobal("fetch", (url: string, request: { body: string | null }) => {
    const body = request.body === null ? {} : (JSON.parse(request.body) as Record<string, unknown>);
    asked.push({ url, body });
    const reply = url.endsWith("/api/cycle")
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

  it("asks from where it was taken hold of, newest wins, and letting go is one edit", async () => {
    answer = (_, body) => pulledTo(600 + (body["wanted"] as { value: number }[])[0]!.value);
    holdResult();
    for (const value of [1, 2, 3, 4, 5]) pullTo(want(value));
    await letGo(true);
    expect(height()).toBe(605);
    expect(useDesign.getState().past).toHaveLength(1);
    const pulls = asked.filter((a) => a.url.endsWith("/api/pull"));
    expect(pulls.length).toBeLessThan(5);
    for (const { body } of pulls) expect(body["document"]).toEqual(tender);
  });

  it("given up, puts everything back", async () => {
    answer = () => pulledTo(700);
    holdResult();
    pullTo(want(9));
    await letGo(false);
    expect(height()).toBe(631.825);
    expect(useDesign.getState().past).toEqual([]);
  });

  it("gives way to an edit made while its answer was on the way", async () => {
    answer = () => pulledTo(700);
    const done = pullOnce(want(9));
    const edited = { ...tender, name: "Edited meanwhile" };
    useDesign.getState().edit(edited);
    await done;
    expect(useDesign.getState().document).toEqual(edited);
  });

  it("says what could not be reached, and takes the nearest", async () => {
    answer = () => pulledTo(640, false);
    await pullOnce(want(999));
    expect(usePulling.getState().short).toMatchObject({ got: [1], free: 12 });
    expect(height()).toBe(640);
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
    useBench.getState().putBehind({ kind: "pinned", name: "revision 1", document: tender });
    preview("a cure", other);
    expect(useBench.getState().behind).toMatchObject({ kind: "preview", name: "a cure" });
    dropPreview();
    expect(useBench.getState().behind).toMatchObject({ kind: "pinned", name: "revision 1" });
    useBench.getState().putBehind(null);
    expect(useBench.getState().behind).toBeNull();
    await settled();
  });

  it("is worked out at the scrubber's place", async () => {
    preview("a cure", other);
    await settled();
    expect(useBench.getState().behind?.answer?.here.columns["anti_squat"]).toEqual([60]);
    dropPreview();
  });

  it("taken, becomes the design, as one step", () => {
    preview("a cure", other);
    takePreview();
    expect(useDesign.getState().document).toEqual(other);
    expect(useDesign.getState().past).toHaveLength(1);
    expect(useBench.getState().behind).toBeNull();
  });
});

describe("choosing", () => {
  it("one at a time, or one more with each", () => {
    const { choose } = useBench.getState();
    choose("a");
    choose("b", true);
    expect(useBench.getState().chosen).toEqual(["a", "b"]);
    choose("a", true);
    expect(useBench.getState().chosen).toEqual(["b"]);
    choose("c");
    expect(useBench.getState().chosen).toEqual(["c"]);
  });

  it("a reading, a finding or the construction: one of them", () => {
    useBench.getState().read("anti");
    useBench.getState().find("swing");
    expect(useBench.getState()).toMatchObject({ reading: null, finding: "swing", converging: false });
    useBench.getState().converge(true);
    expect(useBench.getState()).toMatchObject({ reading: null, finding: null, converging: true });
  });

  it("what presses comes in its order, without what is good", () => {
    const of = (severity: string) => ({ severity }) as Parameters<typeof pressing>[0][number];
    expect(pressing(["fix", "good", "consider"].map(of)).map((f) => f.severity)).toEqual(["fix", "consider"]);
  });
});

describe("the build's bands", () => {
  beforeEach(() => useBuild.setState({ id: 3, bands: { swing: [null, 20] }, trouble: null }));

  it("are sent whole, and one is let go by itself", async () => {
    answer = (_, body) => ({ status: 200, body });
    await useBuild.getState().setBand("bind", [null, 2]);
    expect(asked.at(-1)!.body["bands"]).toEqual({ swing: [null, 20], bind: [null, 2] });
    await useBuild.getState().setBand("swing", null);
    expect(useBuild.getState().bands).toEqual({ bind: [null, 2] });
  });

  it("stay as they were when refused or when the server is gone", async () => {
    answer = () => ({ status: 422, body: { message: "no", faults: [] } });
    await useBuild.getState().setBand("bind", [null, 2]);
    expect(useBuild.getState()).toMatchObject({
      bands: { swing: [null, 20] },
      trouble: expect.stringContaining("refused") as string,
    });
    answer = () => "no server";
    await useBuild.getState().setBand("bind", [null, 2]);
    expect(useBuild.getState()).toMatchObject({
      bands: { swing: [null, 20] },
      trouble: expect.stringContaining("not answer") as string,
    });
  });
});
