/** Many small solids as few large ones: a card draws a few large things sooner than many small ones. */

import * as three from "three";
import { mergeGeometries } from "three/examples/jsm/utils/BufferGeometryUtils.js";

type Drawn =
  three.Mesh<three.BufferGeometry, three.Material> | three.LineSegments<three.BufferGeometry, three.Material>;

/** What these and all in them draw, in the frame that they stand in: one object a material. Theirs is given back. */
export function merged(objects: readonly three.Object3D[]): Drawn[] {
  const sorts = new Map<string, { like: Drawn; parts: three.BufferGeometry[] }>();
  const done = new Set<three.BufferGeometry>();
  for (const object of objects) {
    object.updateMatrixWorld(true);
    object.traverse((one) => {
      if (!(one instanceof three.Mesh || one instanceof three.LineSegments)) return;
      const drawn = one as Drawn;
      const key = `${drawn.material.uuid} ${drawn.layers.mask} ${drawn.type}`;
      const sort = sorts.get(key) ?? { like: drawn, parts: [] };
      sorts.set(key, sort);
      sort.parts.push(plain(drawn));
      done.add(drawn.geometry);
    });
  }
  const made = [...sorts.values()].map(({ like, parts }) => {
    const geometry = mergeGeometries(parts);
    for (const part of parts) part.dispose();
    const whole =
      like instanceof three.Mesh
        ? new three.Mesh(geometry, like.material)
        : new three.LineSegments(geometry, like.material);
    whole.layers.mask = like.layers.mask;
    return whole;
  });
  for (const geometry of done) geometry.dispose();
  return made;
}

/** Its corners where they stand, one after the other, with nothing that only some have. */
function plain(drawn: Drawn): three.BufferGeometry {
  const own = drawn.geometry.index ? drawn.geometry.toNonIndexed() : drawn.geometry.clone();
  for (const name of Object.keys(own.attributes))
    if (name !== "position" && (name !== "normal" || drawn instanceof three.LineSegments))
      own.deleteAttribute(name);
  own.groups = [];
  return own.applyMatrix4(drawn.matrixWorld);
}
