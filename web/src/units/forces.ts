/** Forces, rates and pressures as a person reads and types them: pounds by inches with inches, N with millimeters. */

import { plain, type Units } from "./tape";

const N_PER_LB = 4.4482216;
const MM_PER_INCH = 25.4;
const KPA_PER_PSI = 6.894757;
const MPA_PER_KSI = 6.894757;

const NM_PER_LB_FT = 1.3558179;

const metric = (units: Units): boolean => units === "mm";

/** What one of the shown unit is of newtons, of N/mm and of kPa. */
const force = (units: Units): number => (metric(units) ? 1 : N_PER_LB);
const rate = (units: Units): number => (metric(units) ? 1 : N_PER_LB / MM_PER_INCH);
const pressure = (units: Units): number => (metric(units) ? 1 : KPA_PER_PSI);

export const forceUnit = (units: Units): string => (metric(units) ? "N" : "lb");
export const rateUnit = (units: Units): string => (metric(units) ? "N/mm" : "lb/in");
export const pressureUnit = (units: Units): string => (metric(units) ? "kPa" : "psi");

export const forceFigure = (newtons: number, units: Units): string => plain(newtons / force(units), 0);
export const rateFigure = (nmm: number, units: Units): string =>
  plain(nmm / rate(units), metric(units) ? 1 : 0);
export const pressureFigure = (kpa: number, units: Units): string => plain(kpa / pressure(units), 0);

export const showForce = (newtons: number, units: Units): string =>
  `${forceFigure(newtons, units)} ${forceUnit(units)}`;
export const showTorque = (nm: number, units: Units): string =>
  metric(units) ? `${plain(nm, 0)} N·m` : `${plain(nm / NM_PER_LB_FT, 0)} lb·ft`;
export const showStress = (mpa: number, units: Units): string =>
  metric(units) ? `${plain(mpa, 0)} MPa` : `${plain(mpa / MPA_PER_KSI, 0)} ksi`;
export const showRate = (nmm: number, units: Units): string => `${rateFigure(nmm, units)} ${rateUnit(units)}`;
export const showPressure = (kpa: number, units: Units): string =>
  `${pressureFigure(kpa, units)} ${pressureUnit(units)}`;

function number(text: string): number | string {
  const value = Number(text.trim().replaceAll(/[−–]/g, "-").replace(",", "."));
  return text.trim() === "" || !Number.isFinite(value) ? "Type a number." : value;
}

/** Reads a figure in the unit that is shown, or in one of `named` that is typed after it. */
const read =
  (of: (units: Units) => number, named: Record<string, number>) =>
  (text: string, units: Units): number | string => {
    const [, figure, unit] = /^(.*?)\s*([a-z/]*)$/i.exec(text.trim())!;
    const own = Object.keys(named).find((one) => one.toLowerCase() === unit!.toLowerCase());
    const typed = unit === "" ? of(units) : own === undefined ? undefined : named[own];
    if (typed === undefined) return `Type a number, or one in ${Object.keys(named).join(" or ")}.`;
    const value = number(figure!);
    return typeof value === "string" ? value : value * typed;
  };

export const readForce = read(force, { N: 1, kN: 1000, lb: N_PER_LB, lbf: N_PER_LB });
export const readRate = read(rate, { "N/mm": 1, "lb/in": N_PER_LB / MM_PER_INCH });
export const readPressure = read(pressure, { kPa: 1, bar: 100, psi: KPA_PER_PSI });
