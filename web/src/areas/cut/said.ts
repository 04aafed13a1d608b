/** Sizes, masses and areas of parts as a shop says them. */

import { plain, type Units } from "../../units/tape";

const LB = 0.453_592_37;
const SQUARE_INCH = 645.16;

export const mass = (kg: number, units: Units): string =>
  units === "mm" ? `${plain(kg, 2)} kg` : `${plain(kg / LB, 2)} lb`;

export const area = (mm2: number, units: Units): string =>
  units === "mm" ? `${plain(mm2 / 100, 1)} cm²` : `${plain(mm2 / SQUARE_INCH, 1)} sq in`;

/** A size that is no mark of a tape: a pitch, a wall, what a turn does. */
export const fine = (mm: number, units: Units): string =>
  units === "mm" ? `${plain(mm, 2)} mm` : `${plain(mm / 25.4, 3)} in`;
