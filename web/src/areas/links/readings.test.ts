import { describe, expect, it } from "vitest";

import front from "../../../../server/builds/demo/fell-tender-front.json";
import rear from "../../../../server/builds/demo/fell-tender-rear.json";
import type { CycleAnswer, Sweep } from "../../api/client";
import type { Document } from "../../design/document";
import { rangeOf, readingsOf, show } from "./readings";

const sweep = (columns: Sweep["columns"]): Sweep => ({ columns, reached: [true], state: [] });
const answer = (columns: Sweep["columns"]) =>
  ({ here: sweep(columns), separation: { axle: 254, frame: null } }) as unknown as CycleAnswer;
const reading = (id: string, document = rear as unknown as Document) =>
  readingsOf(document).find((r) => r.id === id)!;

describe("readings", () => {
  it("are those of the axle's end", () => {
    expect(readingsOf(rear as unknown as Document).map((r) => r.name)).toContain("Anti-squat");
    expect(readingsOf(front as unknown as Document).map((r) => r.name)).toContain("Caster change");
  });

  it("say where a figure lies in the shop's words", () => {
    const here = answer({ ic_x: [-1270], ic_height: [254], axle_x: [0.1], axle_y: [-6.35] });
    expect(reading("instant_center").value(here, "in16")).toBe("50 in behind, 10 in up");
    expect(reading("fore_aft").value(here, "in16")).toBe("0 in");
    expect(reading("sideways").value(here, "in16")).toBe("1/4 in right");
  });

  it("say so when a figure does not exist", () => {
    const here = answer({ ic_x: [null], ic_height: [null], anti_squat: [null] });
    expect(reading("instant_center").value(here, "mm")).toBe("far away: links parallel");
    expect(reading("anti").value(here, "mm")).toBe("none");
    expect(reading("separation").value(here, "mm")).toBe("none");
    expect(show(null, "length", "mm")).toBe("none");
  });

  it("range over what exists", () => {
    expect(rangeOf(sweep({ a: [3, null, -1] }), "a")).toEqual([-1, 3]);
    expect(rangeOf(sweep({ a: [null] }), "a")).toBeNull();
  });
});
