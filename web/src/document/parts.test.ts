import { describe, expect, it } from "vitest";

import rear from "../../../server/builds/demo/fell-tender-rear.json";
import front from "../../../server/builds/demo/fell-tender-front.json";
import { linksOnly } from "../testing/solved";
import wattsFile from "../../../server/builds/demo/ghyll-special-rear.json";
import { bodiesOf, type Document, partsOf, spotsOf } from "./parts";
import { locksOf, mirrorOf, moved, movedTogether, overlaid, withLock, withPairing } from "./document";

const tender = linksOnly(rear);
const watts = linksOnly(wattsFile);
const byName = (document: Document, name: string) => spotsOf(document).find((s) => s.name === name)!;

const shock = (side: "left" | "right", on = "axle") => {
  const y = side === "left" ? 1 : -1;
  return {
    id: `coilover-${side}`, frame: { at: [40, y * 430, 900] }, axle: { on, at: [-60, y * 470, 400] },
    extended: 650, compressed: 420, diameter: 63.5,
  }; // prettier-ignore
};
const withShocks = (on = "axle") =>
  ({ ...tender, corners: { shocks: [shock("left", on), shock("right", on)] } }) as unknown as Document;

describe("the table of parts, read on a design", () => {
  it("names every part's points and bodies as the core does", () => {
    expect(spotsOf(tender).map((s) => s.name)).toEqual(
      ["lower-left", "lower-right", "upper-left", "upper-right"].flatMap((id) => [
        `${id}.axle`,
        `${id}.frame`,
      ]),
    );
    expect(bodiesOf(tender).map((b) => b.words)).toContain("upper left link");
    expect(bodiesOf(front as unknown as Document).map((b) => b.id)).toContain("panhard");
  });

  it("is read once a document", () => expect(partsOf(tender)).toBe(partsOf(tender)));

  it("stands a bell crank's ends where arm and tilt say, on the body that has the pivot", () => {
    const lateral = watts.lateral as unknown as { arm: number; pivot: { at: number[]; on: string } };
    const crank = bodiesOf(watts).find((b) => b.shape === "crank")!;
    expect(crank.a.pivot).toEqual(lateral.pivot.at);
    expect(Math.hypot(...crank.a.at.map((v, i) => v - lateral.pivot.at[i]!))).toBeCloseTo(lateral.arm, 9);
    expect(crank.b.at[2]).toBeLessThan(crank.a.at[2]);
    expect(crank.a.on).toBe(lateral.pivot.on);
  });

  it("knows points under the names that older files gave them", () => {
    const left = spotsOf(watts).find((s) => s.was === "watts.left")!;
    expect(left.name).toBe("watts-left.frame");
    const locked = { ...watts, locks: { "watts.left": "xz" } } as unknown as Document;
    expect(locksOf(locked, byName(locked, left.name))).toBe("xz");
    const freed = withLock(locked, byName(locked, left.name), "x", false);
    expect(freed.locks).toEqual({ "watts-left.frame": "z" });
  });

  it("measures a radius arm from midway between its bolts", () => {
    const arm = {
      ...tender,
      links: [{ id: "arm", kind: "radius_arm", axle: { at: [[100, 400, 500], [-100, 400, 440]] }, frame: { at: [900, 380, 480] } }],
    } as unknown as Document; // prettier-ignore
    const body = bodiesOf(arm)[0]!;
    expect(body.a.at).toEqual([0, 400, 470]);
    expect(body.a.of).toHaveLength(2);
    expect(spotsOf(arm).map((s) => s.name)).toEqual(["arm.axle.0", "arm.axle.1", "arm.frame"]);
  });

  it("takes the tube's size from the file, or the standard one", () => {
    const links = tender.links.map((link, n) => (n ? link : { ...link, tube: { diameter: 70 } }));
    const sizes = bodiesOf({ ...tender, links } as unknown as Document).map((b) => b.diameter);
    expect(sizes).toEqual([70, 50.8, 50.8, 50.8]);
  });
});

describe("a shock's eye, which constrains nothing", () => {
  const design = withShocks();
  const eye = byName(design, "coilover-left.frame");

  it("is found, named and paired as a mount is", () => {
    expect(eye).toMatchObject({ end: "frame eye", on: "frame", holds: false, partName: "Coilover left" });
    expect(mirrorOf(design, eye)?.name).toBe("coilover-right.frame");
    expect(bodiesOf(design).at(-1)).toMatchObject({ shape: "shock", diameter: 63.5 });
  });

  it("is dragged with its pair, locked and parted as a mount is", () => {
    const after = moved(design, eye, [45, 440, 905]);
    expect(byName(after, "coilover-right.frame").at).toEqual([45, -440, 905]);
    const locked = withLock(design, eye, "z", true);
    expect(locked.locks).toEqual({ "coilover-left.frame": "z", "coilover-right.frame": "z" });
    expect(byName(movedTogether(locked, [eye], [0, 0, 9]), eye.name).at[2]).toBe(900);
    expect(withPairing(design, eye, false).unpaired).toEqual(["coilover-left.frame", "coilover-right.frame"]);
  });

  it("rides on the link that it names", () =>
    expect(byName(withShocks("lower-left"), "coilover-left.axle").on).toBe("lower-left"));
});

describe("a truck's figures laid over a design", () => {
  it("replace what it takes and share the rest", () => {
    const over = { "vehicle.mass": 9, bands: { swing: [null, 4] } };
    const after = overlaid(tender, over);
    expect(after.vehicle).toEqual({ ...tender.vehicle, mass: 9 });
    expect((after as { bands?: unknown }).bands).toEqual(over.bands);
    expect((overlaid(after, { bands: {} }) as { bands?: unknown }).bands).toEqual({});
    expect(after.links).toBe(tender.links);
  });
});
