/** What of a shock, stop, strap or anti-roll bar is typed: each figure as it stands, and what typing it changes. */

import type { Bar, Shock, Stop, Strap, Strut } from "../../document/corners";
import { isShock, isStop, sortOf } from "../../document/corners";
import {
  forceFigure,
  forceUnit,
  pressureFigure,
  pressureUnit,
  rateFigure,
  rateUnit,
  readForce,
  readPressure,
  readRate,
} from "../../units/forces";
import { lengthFigure, plain, readLength, readTape, type Units, unitSign } from "../../units/tape";
import { type Field, number, numeric } from "../../document/typed";

type Reader = (text: string, units: Units) => number | string;

/** Lines of two numbers, as they are typed. */
function pairs(text: string, units: Units, first: Reader, second: Reader): [number, number][] | string {
  const rows: [number, number][] = [];
  for (const line of text.split("\n").filter((one) => one.trim() !== "")) {
    const [a, b, ...more] = line.split(/[,;\t]+/).map((one) => one.trim());
    if (a === undefined || b === undefined || more.length > 0)
      return `“${line.trim()}” should be two figures with a comma between them.`;
    const [x, y] = [first(a, units), second(b, units)];
    if (typeof x === "string") return x;
    if (typeof y === "string") return y;
    rows.push([x, y]);
  }
  return rows;
}

export function shockFields(shock: Shock, units: Units): Field<Shock>[] {
  const len = (key: "extended" | "compressed" | "diameter", words: string): Field<Shock> =>
    numeric(key, words, lengthFigure(shock[key], units), (t) => readLength(t, units), (s, v) => ({ ...s, [key]: v })); // prettier-ignore
  const coil = sortOf(shock) === "coil";
  return [
    len("extended", coil ? "Free length" : "Open, eye to eye"),
    len("compressed", coil ? "Never shorter than" : "Closed, eye to eye"),
    len("diameter", coil ? "Coil’s outside diameter" : "Body’s diameter"),
    ...springFields(shock, units),
    ...airFields(shock, units),
  ];
}

function springFields(shock: Shock, units: Units): Field<Shock>[] {
  const { spring } = shock;
  if (!spring) return [];
  const put = (change: object) => (s: Shock) => ({ ...s, spring: { ...s.spring!, ...change } });
  const mm = (t: string) => readLength(t, units);
  const fields: Field<Shock>[] = [
    numeric("rate", `Rate, ${rateUnit(units)}`, rateFigure(spring.rate, units), (t) => readRate(t, units), (s, v) => put({ rate: v })(s)), // prettier-ignore
    numeric("preload", "Preload", lengthFigure(spring.preload, units), mm, (s, v) => put({ preload: v })(s)),
    numeric("solid", "Pressed this far, coils touch", lengthFigure(spring.solid, units), mm, (s, v) => put({ solid: v })(s)), // prettier-ignore
  ];
  const { second } = spring;
  if (second)
    fields.push(
      numeric("rate2", `Second’s rate, ${rateUnit(units)}`, rateFigure(second.rate, units), (t) => readRate(t, units), (s, v) => put({ second: { ...second, rate: v } })(s)), // prettier-ignore
      numeric("slide", "Slider stops after", lengthFigure(second.slide, units), mm, (s, v) => put({ second: { ...second, slide: v } })(s)), // prettier-ignore
    );
  return fields;
}

const MM3_PER_LITER = 1e6;
const MM2_PER_IN2 = 645.16;

function airFields(shock: Shock, units: Units): Field<Shock>[] {
  const { air } = shock;
  if (!air) return [];
  const metric = units === "mm";
  const per = metric ? 100 : MM2_PER_IN2;
  const put = (change: object) => (s: Shock) => ({ ...s, air: { ...s.air!, ...change } });
  return [
    numeric("pressure", `Pressure, ${pressureUnit(units)}`, pressureFigure(air.pressure, units), (t) => readPressure(t, units), (s, v) => put({ pressure: v })(s)), // prettier-ignore
    numeric("volume", "Volume at its shortest, liters", plain(air.volume / MM3_PER_LITER, 2), number, (s, v) => put({ volume: v * MM3_PER_LITER })(s)), // prettier-ignore
    {
      key: "area",
      words: `Effective area by length: length, ${metric ? "cm²" : "sq in"}, a line each`,
      text: air.area.map(([at, area]) => `${lengthFigure(at, units)}, ${plain(area / per, 1)}`).join("\n"),
      long: true,
      put: (s, text) => {
        const rows = pairs(text, units, readLength, (t) => {
          const value = number(t);
          return typeof value === "string" ? value : value * per;
        });
        return typeof rows === "string" ? rows : put({ area: rows })(s);
      },
    },
  ];
}

export function stopFields(stop: Stop, units: Units): Field<Stop>[] {
  const mm = (t: string) => readLength(t, units);
  return [
    numeric("free", "Free, with its spacers", lengthFigure(stop.free, units), mm, (s, v) => ({
      ...s,
      free: v,
    })),
    numeric("solid", "Solid, with its spacers", lengthFigure(stop.solid, units), mm, (s, v) => ({ ...s, solid: v })), // prettier-ignore
    {
      key: "force",
      words: `Force over stroke: ${unitSign(units)} pressed, ${forceUnit(units)}, a line each`,
      text: (stop.force ?? [])
        .map(([at, force]) => `${lengthFigure(at, units)}, ${forceFigure(force, units)}`)
        .join("\n"),
      long: true,
      put: (s, text) => {
        const rows = pairs(text, units, readLength, readForce);
        return typeof rows === "string" ? rows : { ...s, force: rows.length ? rows : null };
      },
    },
  ];
}

export function strapFields(strap: Strap, units: Units): Field<Strap>[] {
  return [
    numeric("length", "Between bolt centers", lengthFigure(strap.length, units), (t) => readLength(t, units), (s, v) => ({ ...s, length: v })), // prettier-ignore
    numeric("stretch", "It stretches, %", plain(100 * strap.stretch, 1), (t) => number(t.replace("%", "")), (s, v) => ({ ...s, stretch: v / 100 })), // prettier-ignore
  ];
}

export const barFields = (bar: Bar, units: Units): Field<Bar>[] => [
  numeric("diameter", "Bar’s diameter", lengthFigure(bar.diameter, units), (t) => readLength(t, units), (b, v) => ({ ...b, diameter: v })), // prettier-ignore
];

export function strutFields(strut: Strut, units: Units): Field<Strut>[] {
  if (isShock(strut)) return shockFields(strut, units) as Field<Strut>[];
  return (isStop(strut) ? stopFields(strut, units) : strapFields(strut, units)) as Field<Strut>[];
}

/** Where its two points stand, typed in tape notation: ahead, to the left, off the floor. */
export function placeFields(strut: Strut, units: Units): Field<Strut>[] {
  const ends = [
    ["frame", "Upper"],
    ["axle", "Lower"],
  ] as const;
  const axes = ["ahead", "left", "off the floor"];
  return ends.flatMap(([end, said]) =>
    axes.map((axis, n) => {
      const at = strut[end].at;
      return numeric<Strut>(
        `${end}${n}`,
        `${said}, ${axis}`,
        lengthFigure(at[n]!, units),
        (text) => readChange(text, at[n]!, units),
        (one, value) => {
          const point = [...one[end].at];
          point[n] = value;
          return { ...one, [end]: { ...one[end], at: point } };
        },
      );
    }),
  );
}

/** A length, or a change to the one that stood there. */
function readChange(text: string, stood: number, units: Units): number | string {
  const read = readTape(text, units);
  if (read.kind === "refused") return read.why;
  return read.kind === "change" && text.trim().startsWith("+") ? stood + read.mm : read.mm;
}
