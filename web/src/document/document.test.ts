import { describe, expect, it } from "vitest";

import rear from "../../../server/builds/demo/fell-tender-rear.json";
import front from "../../../server/builds/demo/fell-tender-front.json";
import watts from "../../../server/builds/demo/ghyll-special-rear.json";
import {
  type Document, differences, locksOf, mirrorOf, spotsOf, moved, movedTogether, placed, withLock, withPairing,
} from "./document"; // prettier-ignore
import { linksOnly } from "../testing/solved";

const fourLink = linksOnly(rear);
const threeLink = linksOnly(front);
const byName = (document: Document, name: string) => spotsOf(document).find((m) => m.name === name)!;
const at = (document: Document, name: string) => byName(document, name).at;

describe("mounts", () => {
  it("are all found, in the file's order, under the core's names", () => {
    expect(spotsOf(fourLink).map((m) => m.key)).toHaveLength(8);
    expect(spotsOf(threeLink).at(-1)?.key).toBe("lateral.frame.at");
    expect(spotsOf(threeLink).at(-1)?.name).toBe("panhard.frame");
    expect(spotsOf(linksOnly(watts)).map((m) => m.name).slice(-3)).toEqual([
      "watts.pivot", "watts-left.frame", "watts-right.frame",
    ]); // prettier-ignore
  });

  it("move with their mirror image when paired, and alone when not", () => {
    const mount = spotsOf(fourLink)[0]!;
    const twin = mirrorOf(fourLink, mount)!;
    expect(twin.part).toBe("lower-right");
    const both = moved(fourLink, mount, [1, 500, 3]);
    expect(both.links[0]!.axle.at).toEqual([1, 500, 3]);
    expect(both.links[1]!.axle.at).toEqual([1, -500, 3]);
    const alone = withPairing(fourLink, mount, false);
    expect(alone.unpaired).toEqual(["lower-left.axle", "lower-right.axle"]);
    expect(moved(alone, mount, [1, 500, 3]).links[1]).toBe(fourLink.links[1]);
    expect(withPairing(alone, mount, true).unpaired).toEqual([]);
  });

  it("of a single upper or a panhard bar have no mirror image", () => {
    for (const mount of spotsOf(threeLink).slice(4)) expect(mirrorOf(threeLink, mount)).toBeUndefined();
  });

  it("that are locked stay along those axes, and their partners with them", () => {
    const mount = byName(fourLink, "upper-left.frame");
    const locked = withLock(fourLink, mount, "z", true);
    expect(locksOf(locked, byName(locked, "upper-right.frame"))).toBe("z");
    const after = movedTogether(locked, [mount], [10, 10, 10]);
    expect(at(after, "upper-left.frame")).toEqual([784.7, 429.1, 631.825]);
    expect(at(after, "upper-right.frame")).toEqual([784.7, -429.1, 631.825]);
    const free = withLock(locked, mount, "z", false);
    expect(free.locks).toEqual({});
  });

  it("that are chosen together move as one, partners by the mirror image", () => {
    const mounts = [byName(fourLink, "upper-left.frame"), byName(fourLink, "lower-left.frame")];
    const after = movedTogether(fourLink, mounts, [5, 2, -1]);
    for (const [name, was] of [
      ["upper", [774.7, 419.1, 631.825]],
      ["lower", [984.25, 342.9, 463.55]],
    ] as const) {
      expect(at(after, `${name}-left.frame`)).toEqual([was[0] + 5, was[1] + 2, was[2] - 1]);
      expect(at(after, `${name}-right.frame`)).toEqual([was[0] + 5, -was[1] - 2, was[2] - 1]);
    }
  });

  it("go where an answer of the core says, by name", () => {
    const after = placed(fourLink, { "upper-left.frame": [1, 2, 3] });
    expect(at(after, "upper-left.frame")).toEqual([1, 2, 3]);
    expect(after.links[0]).toBe(fourLink.links[0]);
  });

  it("that differ are named with both places", () => {
    const other = moved(
      withPairing(fourLink, spotsOf(fourLink)[3]!, false),
      spotsOf(fourLink)[3]!,
      [900, -340, 450],
    );
    expect(differences(other, fourLink)).toEqual([
      { label: "Lower right, frame end", ours: [900, -340, 450], theirs: [984.25, -342.9, 463.55] },
    ]);
    expect(differences(fourLink, fourLink)).toEqual([]);
  });
});
