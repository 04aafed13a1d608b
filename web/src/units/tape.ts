/** Lengths as a person reads and types them. Everywhere else a length is a number of millimeters. */

export type Units = "in16" | "in32" | "inch" | "mm";

export const UNIT_NAMES: Record<Units, string> = {
  in16: "inch, 1/16",
  in32: "inch, 1/32",
  inch: "inch, decimal",
  mm: "millimeter",
};

const MM_PER_INCH = 25.4;

/** The unit's short sign, for a column that says it once. */
export const unitSign = (units: Units): string => (units === "mm" ? "mm" : "in");

/** A length without its unit: `9 1/4`, `9.25`, `235`. Never finer than a tape shows. */
export function lengthFigure(mm: number, units: Units): string {
  if (units === "mm") return plain(mm, 0);
  if (units === "inch") return plain(mm / MM_PER_INCH, 2);
  return fraction(mm / MM_PER_INCH, units === "in16" ? 16 : 32);
}

export const length = (mm: number, units: Units): string => `${lengthFigure(mm, units)} ${unitSign(units)}`;

/** A number to so many places, with a true minus and never a minus zero. */
export function plain(value: number, places: number): string {
  const text = Math.abs(value).toFixed(places);
  return value < 0 && Number(text) !== 0 ? `−${text}` : text;
}

function fraction(inches: number, parts: number): string {
  let over = Math.round(Math.abs(inches) * parts);
  let under = parts;
  const sign = inches < 0 && over > 0 ? "−" : "";
  const whole = Math.floor(over / under);
  over -= whole * under;
  while (over > 0 && over % 2 === 0) {
    over /= 2;
    under /= 2;
  }
  const part = over > 0 ? `${over}/${under}` : "";
  return sign + ([whole > 0 || part === "" ? String(whole) : "", part].filter(Boolean).join(" ") || "0");
}

/** What was typed: a length, or a change to the length that stood there; or why it can't be read. */
export type Typed =
  { kind: "length"; mm: number } | { kind: "change"; mm: number } | { kind: "refused"; why: string };

const NUMBER = String.raw`\d+(?:\.\d*)?|\.\d+`;
const AMOUNT = String.raw`(?:(\d+)\s*/\s*(\d+)|(${NUMBER})(?:[\s-]+(\d+)\s*/\s*(\d+))?)`;
const FEET = new RegExp(String.raw`^(${NUMBER})\s*(?:'|ft|feet|foot)\s*-?\s*(.*)$`);
const PLAIN = new RegExp(`^${AMOUNT}\\s*(.*)$`);
const LARGEST_MM = 100_000;

/** As it is read: one sign for each meaning, and fractions that are one character written out. */
const spelled = (text: string): string =>
  text
    .replaceAll(/[¼-¾⅐-⅞]/g, (one) => ` ${one.normalize("NFKC").replace("⁄", "/")}`)
    .trim()
    .toLowerCase()
    .replaceAll("⁄", "/")
    .replaceAll(/[−–]/g, "-")
    .replaceAll("×", "*")
    .replaceAll("÷", ":")
    .replaceAll(/[″”]/g, '"')
    .replaceAll(/[′’]/g, "'");

/**
 * Reads tape notation: `9 1/4`, `9-1/4"`, `9¼`, `2' 3 1/2"`, `235 mm`, and small sums: lengths added to and taken from
 * each other, each multiplied or divided by plain numbers (`43 1/2 * 0.75`). A sign in front makes it a change to what
 * stands there: `+1/8` is more, `-1/8` is less.
 */
export function readTape(text: string, units: Units): Typed {
  const said = spelled(text);
  const [sign] = /^[+-](?=\s*[\d.])/.exec(said) ?? [];
  const size = readWhole(said, units);
  if (typeof size === "string") return { kind: "refused", why: size };
  return { kind: sign ? "change" : "length", mm: size };
}

/** Reads a length by itself, in the same notation; a minus in front of it is below nothing. mm, or why it can't be read. */
export function readLength(text: string, units: Units): number | string {
  const said = spelled(text);
  return said.startsWith("+") ? "Type the whole length, not a change of it." : readWhole(said, units);
}

function readWhole(said: string, units: Units): number | string {
  if (said === "") return "Nothing typed.";
  const size = readSum(said.replace(/^\+(?=\s*[\d.])/, "").trim(), units);
  if (typeof size === "string") return size;
  if (!Number.isFinite(size) || Math.abs(size) > LARGEST_MM) return "More than any truck measures.";
  return size;
}

/** Terms parted by plus and minus. A hyphen inside a mixed fraction (9-1/4) parts nothing: a minus has room on a side. */
function readSum(text: string, units: Units): number | string {
  const parts = text.split(/(\s*\+\s*|\s+-\s*|(?<=[^\s\d*:])-\s*)/);
  const first = readTerm(parts[0]!, units);
  if (typeof first === "string") return first;
  let total = first;
  for (let n = 1; n < parts.length; n += 2) {
    const term = readTerm(parts[n + 1]!, units);
    if (typeof term === "string") return term;
    total += parts[n]!.includes("-") ? -term : term;
  }
  return total;
}

/** A length, multiplied (*) or divided (:) by numbers; one of the factors is the length, the others have no unit. */
function readTerm(text: string, units: Units): number | string {
  const [first, ...rest] = text.split(/\s*([*:])\s*/);
  const negative = first!.startsWith("-");
  const size = readSize(negative ? first!.slice(1).trim() : first!.trim(), units);
  if (typeof size === "string") return size;
  let total = negative ? -size : size;
  for (let n = 0; n < rest.length; n += 2) {
    const by = readFactor(rest[n + 1]!);
    if (by === null)
      return `“${rest[n + 1]!}” is not a plain number to ${rest[n] === "*" ? "multiply" : "divide"} by.`;
    if (rest[n] === ":" && by === 0) return "Nothing can be divided by zero.";
    total = rest[n] === "*" ? total * by : total / by;
  }
  return total;
}

function readFactor(text: string): number | null {
  const found = new RegExp(`^${AMOUNT}$`).exec(text.trim());
  if (!found) return null;
  const [, bareOver, bareUnder, whole, over, under] = found;
  const [part, of] = [Number(over ?? bareOver ?? 0), Number(under ?? bareUnder ?? 1)];
  return of === 0 ? null : Number(whole ?? 0) + part / of;
}

function readSize(text: string, units: Units): number | string {
  const feet = FEET.exec(text);
  if (feet) {
    const inches = feet[2] === "" ? 0 : readSize(feet[2]!, units === "mm" ? "in16" : units);
    return typeof inches === "string" ? inches : Number(feet[1]) * 12 * MM_PER_INCH + inches;
  }
  const found = PLAIN.exec(text);
  if (!found) return "Type a length, like 9 1/4 or 235 mm.";
  const [, bareOver, bareUnder, whole, over, under, unit] = found;
  const parts = over ?? bareOver;
  const of = under ?? bareUnder;
  if (of !== undefined && Number(of) === 0) return "A fraction can't be over zero.";
  const amount = Number(whole ?? 0) + (parts === undefined ? 0 : Number(parts) / Number(of));
  const scale = scaleOf(unit ?? "", units);
  return scale === null ? `“${unit ?? ""}” is not a unit here; use in, ft, mm or cm.` : amount * scale;
}

function scaleOf(unit: string, units: Units): number | null {
  if (unit === "") return units === "mm" ? 1 : MM_PER_INCH;
  if (['"', "''", "in", "inch", "inches"].includes(unit)) return MM_PER_INCH;
  if (unit === "mm") return 1;
  if (unit === "cm") return 10;
  if (["'", "ft", "foot", "feet"].includes(unit)) return 12 * MM_PER_INCH;
  return null;
}

/** The step that a drag or a nudge moves by: shop increments, finer and coarser. mm. */
export function increment(units: Units, pace: "fine" | "shop" | "coarse"): number {
  const steps =
    units === "mm" ? { fine: 1, shop: 5, coarse: 10 } : { fine: 1 / 32, shop: 1 / 8, coarse: 1 / 2 };
  return units === "mm" ? steps[pace] : steps[pace] * MM_PER_INCH;
}

/** A length moved by `by` and brought to the increment; left exactly as it is when it hardly moves. mm. */
export function snapped(from: number, by: number, step: number): number {
  return Math.abs(by) < step / 2 ? from : Math.round((from + by) / step) * step;
}

/** Words of the core with their millimeters as this screen has lengths. */
export const inUnits = (words: string, units: Units): string =>
  units === "mm"
    ? words
    : words.replaceAll(/(-?\d+(?:\.\d+)?) mm/g, (_, mm: string) => length(Number(mm), units));

/** A sentence whose lengths stay on one line: an inch mark is never broken from its fraction, nor a unit from its figure. */
export const unbroken = (sentence: string): string =>
  sentence.replace(/(\d) (\d+\/\d+)/g, "$1\u00a0$2").replace(/(\d) (in|mm|lb|kg)\b/g, "$1\u00a0$2");
