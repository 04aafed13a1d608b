import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { keepSteps, readSteps, stepBetween, stepped } from "./steps";

const before = { name: "a", links: [{ at: [1, 2, 3] }, { at: [4, 5, 6] }], rails: null, use: "trail" };

describe("a step", () => {
  it.each([
    ["a value", { ...before, name: "b" }],
    ["a coordinate", { ...before, links: [{ at: [1, 2, 9] }, before.links[1]!] }],
    ["something new", { ...before, locks: { x: "z" } }],
    ["something gone", { name: "a", links: before.links, rails: null }],
    ["a list of another length", { ...before, links: [before.links[0]!] }],
    ["null to a thing", { ...before, rails: { depth: 3 } }],
  ])("takes %s there and back", (_, after) => {
    const step = stepBetween(before, after);
    expect(stepped<unknown>(before, step, "again")).toEqual(after);
    expect(stepped<unknown>(after, step, "back")).toEqual(before);
  });

  it("holds only what changed and shares the rest", () => {
    const after = { ...before, links: [{ at: [1, 2, 9] }, before.links[1]!] };
    const step = stepBetween(before, after);
    expect(step).toEqual([{ path: ["links", 0, "at", 2], from: 3, to: 9 }]);
    expect(stepped(before, step, "again").links[1]).toBe(before.links[1]);
  });

  it("of nothing is empty", () => expect(stepBetween(before, structuredClone(before))).toEqual([]));

  it("about something that is there no more can't be taken", () => {
    expect(() => stepped<unknown>({ name: "a" }, [{ path: ["links", 0], from: 1, to: 2 }], "back")).toThrow();
  });
});

describe("steps kept on this device", () => {
  beforeEach(() => localStorage.clear());
  afterEach(() => vi.restoreAllMocks());

  it("are there again, each design's own", () => {
    const steps = { past: [stepBetween(before, { ...before, name: "b" })], future: [] };
    keepSteps(3, steps);
    expect(readSteps(3)).toEqual(steps);
    expect(readSteps(4)).toEqual({ past: [], future: [] });
  });

  it("that can't be read are none", () => {
    localStorage.setItem("oak-lever.steps.3", "{broken");
    expect(readSteps(3)).toEqual({ past: [], future: [] });
  });

  it("lose the oldest first when room runs out", () => {
    const kept: string[] = [];
    vi.spyOn(Storage.prototype, "setItem").mockImplementation((_, text) => {
      if (text.length > 150) throw new DOMException("full", "QuotaExceededError");
      kept.push(text);
    });
    const one = stepBetween({ a: 1 }, { a: 2 });
    const last = stepBetween({ a: 8 }, { a: 9 });
    keepSteps(3, { past: [one, one, one, one, one, last], future: [] });
    const { past } = JSON.parse(kept[0]!) as { past: unknown[] };
    expect(past.length).toBeLessThan(6);
    expect(past.at(-1)).toEqual(last);
  });
});
