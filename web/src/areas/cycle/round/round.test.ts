import * as three from "three";
import { beforeAll, describe, expect, it, vi } from "vitest";

import rear from "../../../../../server/builds/demo/fell-tender-rear.json";

import { bodiesOf, type Document } from "../../../document/document";
import { atRide, standing } from "../../../floor/geometry";

import { onAxle, onFrame, swinging } from "./bodies";
import { ground, shades } from "./ground";
import { FINISH, materials } from "./ink";
import { merged } from "./merged";

const design = rear as unknown as Document;
const use = materials();
const shown = { document: design, chosen: null, marked: [], use };
const RADIUS = design.axle.tire_radius_loaded;
/** A little over six degrees, the left wheel up. */
const TWISTED = standing([0, 0, RADIUS, 0.11, 0, 0, 0], RADIUS);

const boundsOf = (objects: readonly three.Object3D[]) => {
  const box = new three.Box3();
  for (const one of objects) {
    one.updateMatrixWorld(true);
    box.expandByObject(one, true);
  }
  return box;
};

/** Nothing paints here: the word on the floor stays blank. */
beforeAll(() => {
  vi.spyOn(HTMLCanvasElement.prototype, "getContext").mockReturnValue(null);
});

describe("solids", () => {
  it("every part is a solid between its two ends, and answers to its name", () => {
    const named = swinging(shown, atRide(RADIUS));
    for (const body of bodiesOf(design)) {
      const box = boundsOf(named.filter(({ id }) => id === body.id).map(({ mesh }) => mesh));
      for (const end of [body.a, body.b])
        expect(box.expandByScalar(1).containsPoint(new three.Vector3(...end.at)), body.id).toBe(true);
    }
  });

  it("tires are as wide apart, as wide and as high as the file says, and stand on the slab", () => {
    const { axle } = design;
    const box = boundsOf(onAxle(shown));
    expect(box.max.y).toBeCloseTo((axle.track + axle.tire_width) / 2, 0);
    expect(box.max.z).toBeCloseTo(RADIUS + axle.tire_diameter / 2, -1);
    const [[slab], level] = ground(design, atRide(RADIUS), use);
    expect(level).toBeCloseTo(0);
    expect(boundsOf([slab!]).max.z).toBeCloseTo(level);
  });

  it("a wheel that stands higher has a block under it that reaches to its tire", () => {
    const [[, block, ...rest], level] = ground(design, TWISTED, use);
    const up = Math.sin(0.11) * design.axle.track;
    const box = boundsOf([block!]);
    expect(box.max.z - box.min.z).toBeCloseTo(up);
    expect(box.min.z).toBeCloseTo(level);
    expect(box.getCenter(new three.Vector3()).y).toBeGreaterThan(0); // the left one
    expect(rest).toHaveLength(2);
  });

  it("joined, they fill the same room in as many pieces as there are inks", () => {
    for (const objects of [onAxle(shown), onFrame(shown)]) {
      const before = boundsOf(objects);
      const made = merged(objects);
      const after = boundsOf(made);
      expect(after.min.distanceTo(before.min)).toBeLessThan(1);
      expect(after.max.distanceTo(before.max)).toBeLessThan(1);
      expect(made.length).toBeLessThan(12);
    }
  });

  it("shade falls on the slab, and is left out with what only finishes it", () => {
    const group = new three.Group().add(...merged(onAxle(shown)));
    group.updateMatrixWorld(true);
    const made = shades(group, 0, use);
    expect(made.length).toBeGreaterThan(1);
    for (const shade of made) {
      expect(shade.layers.isEnabled(FINISH)).toBe(true);
      const at = new three.Vector3(100, 200, 700).applyMatrix4(shade.matrix);
      expect(at.z).toBeCloseTo(2, 1);
    }
  });
});
