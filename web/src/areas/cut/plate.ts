/** A plate as it is cut, and where it stands. */

import type { Schemas } from "../../api/client";
import type { Point } from "../../document/document";

export type CutOut = Schemas["CutOut"];
export type Plate = CutOut["brackets"][number]["plates"][number];
export type BarMade = CutOut["bars"][number];

/** A point of a plate, u and v, in the chassis at ride. */
export const spaceOf = ({ origin, u, v }: Plate, [a, b]: readonly [number, number]): Point =>
  origin.map((at, i) => at + a * u[i]! + b * v[i]!) as unknown as Point;

/** Every plate that is cut: the brackets' and the truss's. */
export const platesOf = ({ brackets, truss }: CutOut): Plate[] => [
  ...brackets.flatMap(({ plates }) => plates),
  ...truss,
];
