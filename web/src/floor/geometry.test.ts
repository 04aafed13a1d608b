import { describe, expect, it } from "vitest";

import type { Point } from "../document/document";
import { fitted, placed, movement, placer, projector, ridePose, turnedBack, type View } from "./geometry";

const aim = { middle: [400, 0, 300] as Point, scale: 0.25 };
const cell = { width: 400, height: 300 };

describe("the axle's pose", () => {
  it("leaves every point where it stands at ride", () => {
    expect(placer(ridePose(450), 450)([10, 20, 30])).toEqual([10, 20, 30]);
  });

  it("lifts the left wheel for positive roll and the nose for negative pitch", () => {
    const left = placer([0, 0, 450, 0.1, 0, 0, 0], 450)([0, 800, 450]);
    expect(left[2]).toBeCloseTo(450 + 800 * Math.sin(0.1), 9);
    const nose = placer([0, 0, 450, 0, -0.1, 0, 0], 450)([300, 0, 450]);
    expect(nose[2]).toBeCloseTo(450 + 300 * Math.sin(0.1), 9);
  });

  it("turns a movement back by the inverse rotation", () => {
    const pose = [5, -3, 470, 0.2, -0.15, 0.1, 0];
    const place = placer(pose, 450);
    const [a, b] = [place([100, 200, 300]), place([101, 203, 298])];
    const back = turnedBack(pose, [b[0] - a[0], b[1] - a[1], b[2] - a[2]]);
    [1, 3, -2].forEach((v, i) => expect(back[i]).toBeCloseTo(v, 9));
  });
});

describe("the three views", () => {
  it("share x between side and top, z between side and rear", () => {
    const p: Point = [123, 45, 678];
    expect(projector("side", aim, cell)(p)[0]).toBe(projector("top", aim, cell)(p)[0]);
    expect(projector("side", aim, cell)(p)[1]).toBe(projector("rear", aim, cell)(p)[1]);
  });

  it.each(["side", "top", "rear"] as View[])("give back in %s the movement that was made", (view) => {
    const project = projector(view, aim, cell);
    const by = movement(view, aim, 12, -7);
    const [a, b] = [project([0, 0, 0]), project(by)];
    expect(b[0] - a[0]).toBeCloseTo(12, 9);
    expect(b[1] - a[1]).toBeCloseTo(-7, 9);
  });

  it("give room to the other views that the top view does not take", () => {
    const extent = { low: [-500, -1000, -100] as Point, high: [1500, 1000, 1100] as Point };
    const [whole, cut] = [1000, 700].map((top) => fitted({ ...extent, top }, 1600, 700, 8, null));
    expect(cut!.aim.scale).toBeGreaterThan(whole!.aim.scale * 1.1);
    expect(cut!.cells.top.height / cut!.aim.scale).toBeGreaterThanOrEqual(1400 - 1e-6);
    const narrow = fitted({ ...extent, top: 700 }, 900, 900, 8, null);
    expect(narrow.cells.side.height).toBeCloseTo(1200 * narrow.aim.scale, 6);
    expect(narrow.cells.side.height + narrow.cells.top.height).toBeCloseTo(892, 6);
  });

  it.each([null, { width: 400, height: 420 }, { width: 300, height: 500 }])(
    "fit the extent into the area beside a pane of %o",
    (pane) => {
      const extent = { low: [-500, -1000, -100] as Point, high: [1500, 1000, 1100] as Point, top: 1000 };
      const { cells, aim: fit } = fitted(extent, 900, 700, 8, pane);
      if (pane) expect([cells.rear.width, cells.top.height]).toEqual([pane.width, pane.height]);
      for (const view of ["side", "top", "rear"] as View[]) {
        for (const corner of [extent.low, extent.high]) {
          const [x, y] = projector(view, fit, cells[view])(corner);
          expect(x).toBeGreaterThanOrEqual(-1e-6);
          expect(x).toBeLessThanOrEqual(cells[view].width + 1e-6);
          expect(y).toBeGreaterThanOrEqual(-1e-6);
          expect(y).toBeLessThanOrEqual(cells[view].height + 1e-6);
        }
      }
    },
  );

  it.each(["side", "top", "rear"] as View[])(
    "stand in projection, and beside each other, where %s leads",
    (lead) => {
      const extent = { low: [-500, -1000, -100] as Point, high: [1500, 1000, 1100] as Point, top: 1000 };
      const { cells } = fitted(extent, 900, 700, 8, { width: 400, height: 420 });
      const places = placed(lead, cells, 8);
      expect(places[lead]).toEqual({ left: 0, top: 0 });
      expect(places.side.left).toBe(places.top.left);
      expect(places.side.top).toBe(places.rear.top);
      const boxes = [
      { ...places.side, ...cells.side }, { ...places.top, ...cells.top }, { ...places.rear, ...cells.rear },
      { ...places.corner, width: cells.rear.width, height: cells.top.height },
    ]; // prettier-ignore
      for (const [n, a] of boxes.entries())
        for (const b of boxes.slice(n + 1)) {
          const apart = a.left + a.width <= b.left || b.left + b.width <= a.left || a.top + a.height <= b.top || b.top + b.height <= a.top; // prettier-ignore
          expect(apart).toBe(true);
        }
    },
  );
});
