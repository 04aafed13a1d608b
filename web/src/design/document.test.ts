import { describe, expect, it } from "vitest";

import rear from "../../../server/builds/demo/fell-tender-rear.json";
import front from "../../../server/builds/demo/fell-tender-front.json";
import { type Document, differences, mirrorOf, mountsOf, moved } from "./document";

const fourLink = rear as unknown as Document;
const threeLink = front as unknown as Document;

describe("mounts", () => {
  it("are all found, in the file's order", () => {
    expect(mountsOf(fourLink).map((m) => m.key)).toHaveLength(8);
    expect(mountsOf(threeLink).at(-1)?.key).toBe("lateral.frame.at");
  });

  it("move with their mirror image when paired, and alone when not", () => {
    const mount = mountsOf(fourLink)[0]!;
    const twin = mirrorOf(fourLink, mount)!;
    expect(twin.bar).toBe("lower-right");
    const both = moved(fourLink, mount, [1, 500, 3], true);
    expect(both.links[0]!.axle.at).toEqual([1, 500, 3]);
    expect(both.links[1]!.axle.at).toEqual([1, -500, 3]);
    const one = moved(fourLink, mount, [1, 500, 3], false);
    expect(one.links[1]).toBe(fourLink.links[1]);
  });

  it("of a single upper or a panhard bar have no mirror image", () => {
    for (const mount of mountsOf(threeLink).slice(4)) expect(mirrorOf(threeLink, mount)).toBeUndefined();
  });

  it("that differ are named with both places", () => {
    const other = moved(fourLink, mountsOf(fourLink)[3]!, [900, -340, 450], false);
    expect(differences(other, fourLink)).toEqual([
      { label: "Lower right, frame end", ours: [900, -340, 450], theirs: [984.25, -342.9, 463.55] },
    ]);
    expect(differences(fourLink, fourLink)).toEqual([]);
  });
});
