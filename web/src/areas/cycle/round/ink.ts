/** How solids are drawn: pale, as on the floor, with ink where an edge or an outline is. */

import * as three from "three";

export interface Materials {
  link: three.Material;
  chosen: three.Material;
  marked: three.Material;
  steel: three.Material;
  rubber: three.Material;
  rim: three.Material;
  spring: three.Material;
  /** What stands in the way, seen through: outlines and tubes; and boxes and hulls, of which more is seen at once. */
  through: three.Material;
  fainter: three.Material;
  floor: three.Material;
  ink: three.LineBasicMaterial;
  faint: three.LineBasicMaterial;
  outline: three.Material;
  shade: three.Color;
}

/** The layer of what is left out while it turns on a machine that draws slowly: outlines and shade. */
export const FINISH = 1;
/** mm that an outline stands out: so many pixels at the zoom that is looked at. */
export const outlineMm = { value: 4 };

/** The colors of the page, as they are in this theme. */
export function materials(): Materials {
  const style = getComputedStyle(window.document.documentElement);
  const color = (name: string) => new three.Color(style.getPropertyValue(name).trim() || "#888");
  const solid = (name: string) =>
    new three.MeshLambertMaterial({
      color: color(name), side: three.DoubleSide, polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1,
    }); // prettier-ignore
  const seenThrough = (name: string, opacity: number) =>
    new three.MeshLambertMaterial({
      color: color(name), transparent: true, opacity, depthWrite: false, side: three.DoubleSide,
    }); // prettier-ignore
  return {
    link: solid("--sheet"),
    chosen: solid("--accent"),
    marked: solid("--stop"),
    steel: solid("--steel-deep"),
    rubber: solid("--tire"),
    rim: solid("--steel"),
    spring: solid("--far"),
    through: seenThrough("--line", 0.34),
    fainter: seenThrough("--line", 0.16),
    floor: solid("--steel"),
    ink: new three.LineBasicMaterial({ color: color("--ink") }),
    faint: new three.LineBasicMaterial({ color: color("--line") }),
    outline: outline(color("--ink")),
    shade: color("--ink"),
  };
}

/** The back of a solid, a little larger: what of it shows past the front is its outline. */
function outline(color: three.Color): three.Material {
  const material = new three.MeshBasicMaterial({ color, side: three.BackSide });
  material.onBeforeCompile = (shader) => {
    shader.uniforms["standsOut"] = outlineMm;
    shader.vertexShader = `uniform float standsOut;\n${shader.vertexShader}`.replace(
      "#include <begin_vertex>",
      "#include <begin_vertex>\ntransformed += normalize(normal) * standsOut;",
    );
  };
  return material;
}

/** Faces that meet at less than this are one round face, degrees. */
const ROUND_DEG = 35;
const unpicked = () => undefined;

/** A solid with its outline inked. */
export function outlined(
  geometry: three.BufferGeometry,
  material: three.Material,
  use: Materials,
): three.Mesh {
  const mesh = new three.Mesh(geometry, material);
  const behind = new three.Mesh(geometry, use.outline);
  behind.raycast = unpicked;
  behind.layers.set(FINISH);
  return mesh.add(behind);
}

/** A solid with its edges inked and, `round`, its outline: a round face has no edge of its own to show. */
export function inked(
  geometry: three.BufferGeometry,
  material: three.Material,
  use: Materials,
  round = true,
): three.Mesh {
  const mesh = round ? outlined(geometry, material, use) : new three.Mesh(geometry, material);
  const edges = new three.LineSegments(new three.EdgesGeometry(geometry, ROUND_DEG), use.ink);
  edges.raycast = unpicked;
  return mesh.add(edges);
}

/** What stands in the way: seen through, its edges faint. */
export function ghostly(
  geometry: three.BufferGeometry,
  material: three.Material,
  use: Materials,
): three.Mesh {
  const mesh = new three.Mesh(geometry, material);
  mesh.add(new three.LineSegments(new three.EdgesGeometry(geometry, ROUND_DEG), use.faint));
  return mesh;
}

/** Give back what the card holds of these. */
export function dispose(group: three.Object3D): void {
  group.traverse((one) => {
    if (one instanceof three.Mesh || one instanceof three.LineSegments)
      (one.geometry as three.BufferGeometry).dispose();
  });
  group.clear();
}
