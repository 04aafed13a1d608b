import { describe, expect, it } from "vitest";

import { increment, length, readLength, readTape, snapped, unbroken } from "./tape";

describe("lengths as read", () => {
  it.each([
    [234.95, "in16", "9 1/4 in"],
    [-9.525, "in16", "−3/8 in"],
    [25.4, "in16", "1 in"],
    [0.1, "in16", "0 in"],
    [-0.1, "mm", "0 mm"],
    [390.525, "in32", "15 3/8 in"],
    [391.31875, "in32", "15 13/32 in"],
    [25.3, "in16", "1 in"],
    [234.95, "inch", "9.25 in"],
    [234.95, "mm", "235 mm"],
  ] as const)("%f mm in %s is %s", (mm, units, text) => expect(length(mm, units)).toBe(text));
});

describe("lengths as typed", () => {
  it.each([
    ["9 1/4", "in16", 234.95],
    ['9-1/4"', "in16", 234.95],
    ["9.25", "inch", 234.95],
    ["235 mm", "in16", 235],
    ["235", "mm", 235],
    ["9 1/4 in", "mm", 234.95],
    [`2' 3 1/2"`, "in16", 698.5],
    ["1/2", "in16", 12.7],
    ["9¼", "in16", 234.95],
    ["9 ⅜", "in16", 238.125],
    ["⅞", "in16", 22.225],
    ["2 ½ ft", "in16", 762],
    ["3 cm", "in16", 30],
    [".5", "inch", 12.7],
  ] as const)("%s in %s is %f mm", (text, units, mm) => {
    const typed = readTape(text, units);
    expect(typed.kind).toBe("length");
    expect(typed.kind === "refused" ? NaN : typed.mm).toBeCloseTo(mm, 9);
  });

  it.each([
    ["43 1/2 * 0.75", "in16", 43.5 * 0.75 * 25.4],
    ["43 1/2 × 3/4", "in16", 43.5 * 0.75 * 25.4],
    ["10 ÷ 4", "in16", 63.5],
    ["12 + 3/8", "in16", 12.375 * 25.4],
    ["12 in + 10 mm", "in16", 314.8],
    ["12 - 3/8", "in16", 11.625 * 25.4],
    ["2' - 1/2", "in16", 23.5 * 25.4],
    ["100 * 2 - 50", "mm", 150],
    ["9-1/4 * 2", "in16", 18.5 * 25.4],
  ] as const)("the sum %s in %s is %f mm", (text, units, mm) => {
    const typed = readTape(text, units);
    expect(typed.kind === "refused" ? typed.why : typed.mm).toBeCloseTo(mm, 9);
  });

  it("takes a sum as a change too", () => {
    const typed = readTape("+1/8 * 3", "in16");
    expect(typed.kind === "change" ? typed.mm : NaN).toBeCloseTo(9.525, 9);
  });

  it.each(["3 * 4 in", "3 ÷ 0", "2 +", "* 3", "3 * x"])("refuses the sum %s in words", (text) => {
    expect(readTape(text, "in16").kind).toBe("refused");
  });

  it("reads a change to what stands there", () => {
    expect(readTape("+1/8", "in16")).toEqual({ kind: "change", mm: 3.175 });
    expect(readTape("-1/8", "in16")).toEqual({ kind: "change", mm: -3.175 });
    expect(readTape("−⅛", "in16")).toEqual({ kind: "change", mm: -3.175 });
    expect(readTape("-1 + 2", "mm")).toEqual({ kind: "change", mm: 1 });
  });

  it("reads a length below nothing where no change is meant", () => {
    expect(readLength("-3/8", "in16")).toBeCloseTo(-9.525, 9);
    expect(readLength("+3/8", "in16")).toContain("the whole length");
    expect(readLength("-", "in16")).toContain("Type a length");
  });

  it.each(["", "abc", "9 1/0", "9 furlongs", "1/2/3", "9 1", "1e9", "--4", "+-1/8", "+", "NaN", "9999999"])(
    "refuses %s",
    (text) => {
      expect(readTape(text, "in16").kind).toBe("refused");
    },
  );

  it("reads back what it shows, to the tape's own division", () => {
    for (let mm = -500; mm < 500; mm += 7.3) {
      const read = readLength(length(mm, "in32"), "in32");
      expect(Math.abs(Number(read) - mm)).toBeLessThanOrEqual(25.4 / 64 + 1e-9);
    }
  });
});

describe("shop increments", () => {
  it("brings a moved length to the increment and leaves an unmoved one alone", () => {
    const step = increment("in16", "shop");
    expect(snapped(100, 0.4, step)).toBe(100);
    expect(snapped(100, 5, step) / step).toBeCloseTo(Math.round(105 / step), 12);
  });
});

describe("a sentence", () => {
  it("keeps each length on one line, and reads the same", () => {
    const said =
      "Upper link frame ends up 7 7/8 in: separation 10 in to 9 3/4 in, 25 mm, 1.2 kg more, in 3 turns.";
    const kept = unbroken(said);
    expect(kept.replaceAll("\u00a0", " ")).toBe(said);
    expect(kept.split(" ")).toEqual(
      expect.arrayContaining([
        "7\u00a07/8\u00a0in:",
        "10\u00a0in",
        "9\u00a03/4\u00a0in,",
        "25\u00a0mm,",
        "1.2\u00a0kg",
        "turns.",
      ]),
    );
    expect(readLength(unbroken("7 7/8 in"), "mm")).toBe(readLength("7 7/8 in", "mm"));
  });
});
