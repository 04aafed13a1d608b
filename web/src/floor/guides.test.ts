import { describe, expect, it } from "vitest";

import rear from "../../../server/builds/demo/fell-tender-rear.json";
import { type Document, spotsOf, moved, type Point } from "../document/document";
import { caught, guidesFor } from "./guides";

const design = rear as unknown as Document;
const mount = (document: Document, name: string) => spotsOf(document).find((m) => m.name === name)!;
const with_ = (name: string, at: Point) => moved(design, mount(design, name), at);

describe("guides", () => {
  it("say what a mount is level, plumb and in line with", () => {
    const [, , z] = mount(design, "upper-left.axle").at;
    const [x] = mount(design, "lower-left.frame").at;
    const there = with_("upper-left.frame", [x, 300, z]);
    const kinds = guidesFor(there, "links.2.frame.at").map((g) => g.kind);
    expect(kinds).toContain("level");
    expect(kinds).toContain("plumb");
    expect(kinds).not.toContain("beside");
    const level = guidesFor(there, "links.2.frame.at").find((g) => g.kind === "level")!;
    expect(level.words).toBe("level with upper left axle end");
    expect(level.to).toEqual(mount(there, "upper-left.axle").at);
  });

  it("leave the mirror image out: it is always level", () => {
    expect(guidesFor(design, "links.2.frame.at").some((g) => g.words.includes("upper right"))).toBe(false);
  });

  it("say when a link is as long as another", () => {
    const { at: a } = mount(design, "lower-left.axle");
    const { at: f } = mount(design, "lower-left.frame");
    const from = mount(design, "upper-left.axle").at;
    const long = Math.hypot(f[0] - a[0], f[1] - a[1], f[2] - a[2]);
    const there = with_("upper-left.frame", [from[0] + long, from[1], from[2]]);
    const words = guidesFor(there, "links.2.frame.at").map((g) => g.words);
    expect(words).toContain("same length as lower left link");
  });

  it("of a mount that is not there are none", () =>
    expect(guidesFor(design, "links.9.frame.at")).toEqual([]));
});

describe("catching", () => {
  const own = mount(design, "upper-left.frame");
  const height = mount(design, "upper-left.axle").at[2];

  it("takes over a height that is near, and only along the axes that move", () => {
    const near: Point = [own.at[0], own.at[1], height - 2];
    expect(caught(design, own, near, 3, [2])[2]).toBe(height);
    expect(caught(design, own, near, 1, [2])[2]).toBe(height - 2);
    expect(caught(design, own, near, 3, [0])).toEqual(near);
  });

  it("does not catch on the mount's own mirror image", () => {
    const near: Point = [own.at[0] + 1, own.at[1], own.at[2] + 1];
    expect(caught(design, own, near, 2, [0, 2])).toEqual(near);
  });
});
