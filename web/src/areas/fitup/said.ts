/** Mounts, bars and places of the axle in a shop’s words. */

import { type Document, mountLabel, spotsOf, words } from "../../document/document";
import { shocksOf, stopsOf, strapsOf } from "../../document/corners";
import { bodiesOf, capital } from "../../document/parts";
import { partWords } from "../../panels/Gaps";
import type { Stood } from "../../state/stood";
import { length, plain, type Units } from "../../units/tape";

export const mountName = (document: Document, name: string): string => {
  const spot = spotsOf(document).find((one) => one.name === name);
  return spot ? mountLabel(spot).toLowerCase() : words(name).toLowerCase();
};

/** Bars that have a length of their own, by name and words. */
export const barsOf = (document: Document): (readonly [string, string])[] =>
  bodiesOf(document)
    .filter(({ shape }) => shape === "link")
    .map(({ id, words }) => [id, capital(words)] as const);

/** Shocks, straps and stops, by name and words. */
export const strutsOf = (document: Document): (readonly [string, string])[] =>
  [...shocksOf(document), ...strapsOf(document), ...stopsOf(document)].map(
    ({ id }) => [id, capital(words(id).toLowerCase())] as const,
  );

/** What a reading on its weight is of. */
export function stoodWords(document: Document, reading: Stood): string {
  const name = (part: string) => partWords(document, part).toLowerCase();
  if (reading.kind === "pinion") return "the pinion on a gauge";
  if (reading.kind === "bar") return `${name(reading.of)} on a gauge`;
  return reading.kind === "gap" ? `gap of ${name(reading.of)} and ${name(reading.to)}` : name(reading.of);
}

export const PLACES: Record<string, string> = {
  pinion_change: "The pinion",
  axle_x: "Fore-aft",
  axle_y: "Center",
  yaw: "Square",
};

const SIDES: Record<string, readonly [string, string]> = {
  pinion_change: ["up", "down"],
  axle_x: ["forward", "back"],
  axle_y: ["to the left", "to the right"],
  yaw: ["turned to the left", "turned to the right"],
};

/** Where the axle stands off its place, with its side. */
export function standsSaid(figure: string, value: number, units: Units): string {
  const angle = figure === "pinion_change" || figure === "yaw";
  const size = angle ? `${plain(Math.abs(value), 2)}°` : length(Math.abs(value), units);
  const [plus, minus] = SIDES[figure]!;
  const none = angle ? Math.abs(value) < 0.005 : /^0 /.test(size);
  return none ? "in its place" : `${size} ${value > 0 ? plus : minus}`;
}

/** Turns of a bar in words. */
export const turnsSaid = (turns: number): string => {
  const many = Math.abs(turns);
  const whole = Math.floor(many);
  const half = many - whole >= 0.5 ? "1/2" : "";
  const said = [whole > 0 || half === "" ? String(whole) : "", half].filter(Boolean).join(" ");
  return `${said} turn${many > 1 ? "s" : ""} ${turns > 0 ? "longer" : "shorter"}`;
};
