/** The truck's figures as a person reads and types them: lengths by tape, weights in kg or lb, shares in percent. */

import type { Schemas } from "../api/client";
import { theRegister } from "../api/register";
import { length, plain, readLength, type Units } from "../units/tape";

export type TruckUnit = Schemas["TruckFigure"]["unit"];

const KG_PER_LB = 0.45359237;

export function showTruck(value: unknown, unit: TruckUnit, units: Units): string {
  if (value === null || value === undefined) return "none";
  if (Array.isArray(value)) return value.length === 0 ? "none" : String(value.length);
  if (typeof value === "number") {
    if (unit === "kg") return units === "mm" ? `${plain(value, 0)} kg` : `${plain(value / KG_PER_LB, 0)} lb`;
    if (unit === "share") return `${plain(100 * value, 1)} %`;
    return length(value, units);
  }
  if (typeof value === "string") return theRegister().uses.find((use) => use.id === value)?.name ?? value;
  const parts = Object.entries(value).map(([key, part]) =>
    typeof part === "number"
      ? `${key.replaceAll("_", " ")} ${length(part, units)}`
      : key.replaceAll("_", " "),
  );
  return parts.join(", ") || "none";
}

/** What was typed for a figure, in the file's unit; or why it can't be read. */
export function readTruck(text: string, unit: TruckUnit, units: Units): number | string {
  if (unit === "mm") {
    return readLength(text, units);
  }
  const found = /^(-?[\d.]+)\s*(kg|lb|lbs|%)?$/.exec(text.trim().replace("−", "-").toLowerCase());
  const value = Number(found?.[1]);
  if (!found || !Number.isFinite(value)) return unit === "kg" ? "Type a weight, like 6800 lb or 3100 kg." : "Type a percentage, like 53 %."; // prettier-ignore
  if (unit === "share") return found[2] === "kg" || found[2]?.startsWith("lb") ? "Type a percentage, like 53 %." : value / 100; // prettier-ignore
  if (found[2] === "%") return "Type a weight, like 6800 lb or 3100 kg.";
  const pounds = found[2] === undefined ? units !== "mm" : found[2] !== "kg";
  return pounds ? value * KG_PER_LB : value;
}
