import { describe, expect, it } from "vitest";

import front from "../../../server/builds/demo/fell-tender-front.json";
import rear from "../../../server/builds/demo/fell-tender-rear.json";
import type { CycleAnswer, Finding, Sweep } from "../api/client";
import type { Document } from "../document/document";
import { revisionWords } from "../frame/HistorySheet";
import { played } from "../panels/Play";

import { mountWords, wayWords } from "./moves";
import {
  bandWords,
  rangeOf,
  readingsOf,
  readQuantity,
  show,
  showChange,
  valueOf,
  verdictOf,
} from "./readings";

const tender = rear as unknown as Document;
const sweep = (columns: Sweep["columns"]): Sweep => ({ columns, reached: [true], state: [] });
const answer = (columns: Sweep["columns"], findings: Partial<Finding>[] = []) =>
  ({ here: sweep(columns), findings }) as unknown as CycleAnswer;
const reading = (id: string, document = tender) => readingsOf(document).find((r) => r.id === id)!;

describe("readings", () => {
  it("are those of the axle's end", () => {
    expect(readingsOf(tender).map((r) => r.name)).toContain("Anti-squat");
    expect(readingsOf(front as unknown as Document).map((r) => r.name)).toContain("Caster change");
    expect(readingsOf(front as unknown as Document).map((r) => r.name)).not.toContain("Rear steer");
  });

  it("are read off the pose, or off what was judged over the whole cycle", () => {
    expect(valueOf(reading("anti_squat"), answer({ anti_squat: [61.5] }))).toBe(61.5);
    expect(valueOf(reading("anti_squat"), answer({ anti_squat: [null] }))).toBeNull();
    expect(valueOf(reading("swing"), answer({}, [{ id: "swing", value: 20.5 }]))).toBe(20.5);
    expect(valueOf(reading("swing"), answer({}))).toBeNull();
    const stuck = {
      ...answer({ anti_squat: [61.5] }),
      here: { ...sweep({ anti_squat: [61.5] }), reached: [false] },
    };
    expect(valueOf(reading("anti_squat"), stuck)).toBeNull();
  });

  it("are said in their quantity", () => {
    expect(show(null, "length", "mm")).toBe("none");
    expect(show(2, "ratio", "mm")).toBe("2.00 ×");
    expect(show(-1.24, "angle", "mm")).toBe("−1.2°");
    expect(showChange(12.7, "length", "in16")).toBe("+1/2 in");
    expect(showChange(-0.01, "angle", "mm")).toBe("same");
  });

  it("range over what exists", () => {
    expect(rangeOf(sweep({ a: [3, null, -1] }), "a")).toEqual([-1, 3]);
    expect(rangeOf(sweep({ a: [null] }), "a")).toBeNull();
  });
});

describe("verdicts and bands in words", () => {
  it.each([
    [{ verdict: "inside" }, "good"],
    [{ verdict: "low" }, "low"],
    [{ verdict: "open" }, ""],
    [undefined, ""],
  ] as [Finding | undefined, string][])("%o is %s", (finding, said) => {
    expect(verdictOf(finding)).toBe(said);
  });

  it("a band has one end, both or none", () => {
    expect(bandWords(40, 90, "percent", "mm")).toBe("40 % to 90 %");
    expect(bandWords(null, 4, "angle", "mm")).toBe("4.0° or less");
    expect(bandWords(254, null, "length", "in16")).toBe("10 in or more");
    expect(bandWords(null, null, "length", "in16")).toBe("no band");
  });
});

describe("moves in the words of a shop", () => {
  const pair = ["upper-left.frame", "upper-right.frame"];
  it.each([
    [pair, "z", 22.225, "upper frame ends up"],
    [pair, "y", 12.7, "upper frame ends outward"],
    [pair, "y", -12.7, "upper frame ends inward"],
    [["upper-right.frame"], "y", -12.7, "upper right frame end outward"],
    [["lower-left.axle"], "x", -25.4, "lower left axle end back"],
  ])("%j along %s by %f", (names, axis, by, said) => {
    expect(`${mountWords(tender, names)} ${wayWords(tender, names, axis, by)}`).toBe(said);
  });

  it("names what it does not know as it was named", () =>
    expect(mountWords(tender, ["a", "b"])).toBe("a and b"));

  it("says what a revision changed, and nothing too small to show", () => {
    const line = (by: number | null) => ({
      what: "upper frame mounts",
      axis: by === null ? null : ("z" as const),
      by,
    });
    expect(revisionWords([line(12.7)], "in16", false)).toBe("upper frame mounts up 1/2 in");
    expect(revisionWords([line(0.1), line(-12.7)], "in16", false)).toBe("upper frame mounts down 1/2 in");
    expect(revisionWords([line(0.1)], "in16", false)).toBe("mounts by less than a tape shows");
    expect(revisionWords([{ what: "use", axis: null, by: null }], "in16", false)).toBe("use");
    expect(revisionWords([], "in16", true)).toBe("first stored");
  });
});

describe("figures as typed", () => {
  it.each([
    ["96", "length", 2438.4],
    ["2.5", "angle", 2.5],
    ["−2.5°", "angle", -2.5],
    ["70 %", "percent", 70],
  ] as const)("%s of %s is %f", (text, quantity, value) => {
    expect(readQuantity(text, quantity, "in16")).toBeCloseTo(value, 9);
  });
  it.each(["", "steep"])("%o is refused in words", (text) => {
    expect(readQuantity(text, "angle", "in16")).toBe("Type a number.");
  });
});

describe("the cycle played", () => {
  const reach = { bump: 100, droop: 150, articulation: 10 };
  it("goes to full bump and droop straight, then twists both ways at ride", () => {
    expect(played(0.125, reach)).toEqual({ travel: 100, articulation: 0 });
    expect(played(0.375, reach).travel).toBeCloseTo(-150, 9);
    expect(played(0.625, reach)).toEqual({ travel: 0, articulation: 10 });
    expect(played(0.875, reach).articulation).toBeCloseTo(-10, 9);
  });
});
