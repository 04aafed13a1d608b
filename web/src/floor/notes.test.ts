import { describe, expect, it } from "vitest";

import { tender } from "../testing/solved";
import { atRide, projector, type View, type Xy } from "./geometry";
import { type Bar, placedNotes, solidsOf } from "./notes";

const cell = { width: 420, height: 260 };
const note = (text: string, at: Xy) => ({ text, at, dot: true });
const boxOf = ({ note: { text }, place: [x, y] }: ReturnType<typeof placedNotes>[number]) => {
  const half = (text.length * 6.4) / 2;
  return [x - half, y - 11, x + half, y + 4] as const;
};

describe("notes", () => {
  it("of points that lie together do not overprint, and stay on the view", () => {
    const at: Xy = [410, 130];
    const placed = placedNotes(
      ["roll center", "apex of the uppers", "apex of the lowers", "instant center"].map((t) => note(t, at)),
      [],
      cell,
    );
    const boxes = placed.map(boxOf);
    boxes.forEach(([a, b, c, d], n) => {
      expect(a).toBeGreaterThanOrEqual(0);
      expect(c).toBeLessThanOrEqual(cell.width);
      for (const [e, g, h, i] of boxes.slice(0, n))
        expect(Math.min(c, h) <= Math.max(a, e) || Math.min(d, i) <= Math.max(b, g)).toBe(true);
    });
  });

  it("stand beside what is drawn, on a leader where that is far", () => {
    const wall: Bar = { a: [0, 130], b: [420, 130], half: 40 };
    const [placed] = placedNotes([note("roll center", [200, 130])], [wall], cell);
    const [, top, , bottom] = boxOf(placed!);
    expect(bottom <= 90 || top >= 170).toBe(true);
    expect(placed!.leader).not.toBeNull();
  });

  it("stand close by where there is room", () => {
    const [placed] = placedNotes([note("roll center", [200, 130])], [], cell);
    expect(placed!.leader).toBeNull();
    expect(Math.hypot(placed!.place[0] - 200, placed!.place[1] - 130)).toBeLessThan(60);
  });

  it("find a place even where all is covered", () => {
    const all: Bar = { a: [0, 130], b: [420, 130], half: 500 };
    expect(placedNotes([note("roll center", [200, 130])], [all], cell)).toHaveLength(1);
  });
});

describe("what stands in a view", () => {
  it.each(["side", "top", "rear"] as View[])("has a bar for every link and joint in %s", (view) => {
    const document = tender;
    const to = projector(view, { middle: [300, 0, 500], scale: 0.2 }, cell);
    const solids = solidsOf({ view, document, standing: atRide(document.axle.tire_radius_loaded), to });
    const ends = document.links.flatMap((link) => (link.kind === "radius_arm" ? [] : [to(link.axle.at)]));
    expect(ends).toHaveLength(4);
    for (const [x, y] of ends)
      expect(solids.some(({ a }) => Math.hypot(a[0] - x, a[1] - y) < 1e-6)).toBe(true);
    expect(solids.every(({ half }) => half > 0)).toBe(true);
  });
});
