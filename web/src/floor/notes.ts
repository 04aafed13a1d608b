/** Where words may stand on a view: beside what they name, over nothing that is drawn, and not over each other. */

import { bodiesOf, type Document, type Point, spotsOf } from "../document/document";
import { type Cell, type Standing, type View, type Xy } from "./geometry";
import { railsOf } from "./rails";

/** Words that belong to a point of the view. `dot`: the point is drawn too. */
export interface Note {
  at: Xy;
  text: string;
  dot: boolean;
  /** What tells it from another note with the same words. */
  id?: string;
}

export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** A line with some width; of no length, a disc. */
export interface Bar {
  a: Xy;
  b: Xy;
  half: number;
}

const LETTER_PX = 6.4;
const HIGH_PX = 15;
const APART_PX = [13, 20, 28, 38, 50, 64, 80];
const WAYS = [...Array(16).keys()].map((n) => (n * Math.PI) / 8 - Math.PI / 4);
const LEADER_FROM_PX = 24;
const HANDLE_PX = 12;
/** Room that a view's title takes in its upper left corner. */
const TITLE: Box = { left: 0, top: 0, right: 175, bottom: 24 };

/** What a note's words cover when their middle stands there. */
const boxAt = (text: string, [x, y]: Xy): Box => {
  const half = (text.length * LETTER_PX) / 2 + 2;
  return { left: x - half, right: x + half, top: y - HIGH_PX / 2, bottom: y + HIGH_PX / 2 };
};

const across = (a: Box, b: Box) =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

/** Whether a bar comes into a box: walked along in steps no longer than the box is high. */
function hits({ a, b, half }: Bar, box: Box): boolean {
  const steps = Math.max(1, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / HIGH_PX));
  return [...Array(steps + 1).keys()].some((n) => {
    const x = a[0] + ((b[0] - a[0]) * n) / steps;
    const y = a[1] + ((b[1] - a[1]) * n) / steps;
    const [dx, dy] = [Math.max(box.left - x, 0, x - box.right), Math.max(box.top - y, 0, y - box.bottom)];
    return Math.hypot(dx, dy) < half;
  });
}

export interface Placed {
  note: Note;
  /** The middle of the words' baseline. */
  place: Xy;
  /** Where a line from the point to its words ends; none where they stand close by. */
  leader: Xy | null;
}

/** Each note at the nearest place where it covers nothing; where there is none, where it covers least. */
export function placedNotes(notes: readonly Note[], solids: readonly Bar[], cell: Cell): Placed[] {
  const taken: Box[] = [TITLE];
  const discs = notes.map((note): Bar => ({ a: note.at, b: note.at, half: HANDLE_PX }));
  return notes.map((note, own) => {
    const others = [...solids, ...discs.filter((_, n) => n !== own || note.dot)];
    let best: { cost: number; apart: number; box: Box; middle: Xy } | null = null;
    for (const apart of APART_PX)
      for (const way of WAYS) {
        const reach = (note.text.length * LETTER_PX) / 2;
        const middle: Xy = [
          note.at[0] + Math.cos(way) * (apart + reach),
          note.at[1] + Math.sin(way) * (apart + HIGH_PX / 2),
        ];
        const box = boxAt(note.text, middle);
        if (box.left < 2 || box.top < 2 || box.right > cell.width - 2 || box.bottom > cell.height - 2)
          continue;
        const words = taken.filter((one) => across(one, box)).length;
        const parts = others.filter((bar) => hits(bar, box)).length;
        const cost = apart + 1000 * words + 100 * parts;
        if (!best || cost < best.cost) best = { cost, apart, box, middle };
        if (best.cost <= apart) break;
      }
    const at = best?.middle ?? note.at;
    if (best) taken.push(best.box);
    return {
      note,
      place: [at[0], at[1] + HIGH_PX / 4],
      leader: best && best.apart >= LEADER_FROM_PX ? nearestOf(best.box, note.at) : null,
    };
  });
}

const nearestOf = (box: Box, [x, y]: Xy): Xy => [
  Math.min(Math.max(x, box.left), box.right),
  Math.min(Math.max(y, box.top), box.bottom),
];

interface Seen {
  view: View;
  document: Document;
  standing: Standing;
  to: (p: Point) => Xy;
}

/** What is drawn in a view, as bars: links, joints, housing, tubes, rails, tires. */
export function solidsOf({ view, document, standing, to }: Seen): Bar[] {
  const { axle } = document;
  const [zero, unit] = [to([0, 0, 0]), to([1000, 1000, 1000])];
  const scale = Math.abs(unit[0] - zero[0]) / 1000;
  const onAxle = (p: Point) => to(standing.place("axle", p));
  const radius = axle.tire_radius_loaded;
  const bar = (a: Xy, b: Xy, half: number): Bar => ({ a, b, half: half * scale });
  const center = onAxle([0, axle.pinion.joint[1], radius]);
  const bodies = bodiesOf(document).map((body) =>
    bar(to(standing.end(body.a)), to(standing.end(body.b)), body.diameter / 2),
  );
  const joints = spotsOf(document).map((mount): Bar => {
    const at = to(standing.place(mount.on, mount.at));
    return { a: at, b: at, half: HANDLE_PX };
  });
  const housing = [
    bar(center, center, Math.min(axle.tire_diameter * 0.17, radius * 0.42)),
    bar(center, onAxle(axle.pinion.joint), axle.tube_diameter * 0.45),
  ];
  const half = axle.track / 2;
  const tube =
    view === "side"
      ? []
      : [bar(onAxle([0, half, radius]), onAxle([0, -half, radius]), axle.tube_diameter / 2)];
  return [...bodies, ...joints, ...housing, ...tube, ...railBars(view, document, to, scale)];
}

function railBars(view: View, document: Document, to: (p: Point) => Xy, scale: number): Bar[] {
  const { outside, depth, flange, underside, from, until } = railsOf(document);
  const high = underside + depth / 2;
  if (view === "side")
    return [{ a: to([from, 0, high]), b: to([until, 0, high]), half: (depth / 2) * scale }];
  return [1, -1].map((side) => {
    const y = side * (outside / 2 - flange / 2);
    const ends: [Point, Point] =
      view === "top"
        ? [
            [from, y, 0],
            [until, y, 0],
          ]
        : [
            [0, y, underside + flange / 2],
            [0, y, underside + depth - flange / 2],
          ];
    return { a: to(ends[0]), b: to(ends[1]), half: (flange / 2) * scale };
  });
}
