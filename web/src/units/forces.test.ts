/** Forces, rates and pressures as they are typed: in the unit that is shown, or in the one typed after the figure. */

import { describe, expect, it } from "vitest";

import { readForce, readPressure, readRate, showForce, showPressure, showRate } from "./forces";

const LB = 4.4482216;

describe("what is typed", () => {
  it("is in the unit that is shown, where none is typed", () => {
    expect(readForce("450", "mm")).toBe(450);
    expect(readForce("450", "in16")).toBeCloseTo(450 * LB, 6);
    expect(readRate("200", "in16")).toBeCloseTo((200 * LB) / 25.4, 6);
    expect(readPressure("30", "in16")).toBeCloseTo(30 * 6.894757, 6);
  });

  it("is in the unit that is typed after it, whatever is shown", () => {
    for (const units of ["mm", "in16"] as const) {
      expect(readForce("450 lb", units)).toBeCloseTo(450 * LB, 6);
      expect(readForce("2,5 kN", units)).toBe(2500);
      expect(readForce("−450N", units)).toBe(-450);
      expect(readRate("35 N/mm", units)).toBe(35);
      expect(readRate("200 lb/in", units)).toBeCloseTo((200 * LB) / 25.4, 6);
      expect(readPressure("2 bar", units)).toBe(200);
      expect(readPressure("30 psi", units)).toBeCloseTo(30 * 6.894757, 6);
    }
  });

  it("is refused where it is no number, or in a unit of something else", () => {
    for (const text of ["", "lb", "450 psi", "450 lb/in", "4 5 0 lb", "strong"])
      expect(typeof readForce(text, "mm")).toBe("string");
    expect(readForce("450 kg", "mm")).toBe("Type a number, or one in N or kN or lb or lbf.");
  });

  it("reads back what is shown", () => {
    for (const units of ["mm", "in16"] as const) {
      expect(readForce(showForce(2000 * LB, units), units)).toBeCloseTo(2000 * LB, -1);
      expect(readRate(showRate(35, units), units)).toBeCloseTo(35, 0);
      expect(readPressure(showPressure(300, units), units)).toBeCloseTo(300, -1);
    }
  });
});
