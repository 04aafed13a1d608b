import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { overlaps } from "../state/steps";
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

describe("a list of things with names", () => {
  const list = (...ids: string[]) => ({ marks: ids.map((id) => ({ id, at: id.length })) });
  const both = (from: unknown, mine: unknown, theirs: unknown) => {
    const [one, other] = [stepBetween(from, mine), stepBetween(from, theirs)];
    expect(overlaps(one, other)).toBe(false);
    return stepped<unknown>(theirs, one, "again");
  };
  /** Small whole numbers in an order that looks like none, the same in every run. */
  const drawn = (seed: number) => () => (seed = (seed * 48271) % 2147483647) % 7;

  it("is taken there and back exactly, whatever came, went or changed in it", () => {
    for (let seed = 1; seed < 300; seed++) {
      const next = drawn(seed * 7919);
      const some = () => "abcdefg".split("").filter(() => next() < 4);
      const [from, to] = [list(...some()), list(...some())];
      to.marks.forEach((mark) => (mark.at = next() < 3 ? 9 : mark.at));
      if (next() === 0) to.marks.reverse();
      const step = stepBetween(from, to);
      expect(stepped<unknown>(from, step, "again")).toEqual(to);
      expect(stepped<unknown>(to, step, "back")).toEqual(from);
    }
  });

  it("takes what two hands added to it, the first of all too", () => {
    expect(both(list(), list("a"), list("b"))).toEqual(list("b", "a"));
    expect(both(list("x"), list("x", "a"), list("x", "b"))).toEqual(list("x", "b", "a"));
  });

  it("keeps a change of one thing where another is gone", () => {
    const mine = { marks: [{ id: "aa", at: 2 }, { id: "b", at: 5 }] }; // prettier-ignore
    expect(both(list("aa", "b"), mine, list("b"))).toEqual({ marks: [{ id: "b", at: 5 }] });
  });

  it("that have no id is told apart by all that its things are", () => {
    const gates = (...of: string[]) => ({ gates: of.map((gate) => ({ gate })) });
    expect(both(gates("one"), gates("one", "two"), gates("one", "three"))).toEqual(
      gates("one", "three", "two"),
    );
  });

  it("of which both changed the same is not taken for changes apart", () => {
    const changed = (at: number) => stepBetween(list("a", "b"), { marks: [{ id: "a", at }, { id: "b", at: 1 }] }); // prettier-ignore
    expect(overlaps(changed(3), changed(4))).toBe(true);
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
