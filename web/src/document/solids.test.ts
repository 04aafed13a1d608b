import { describe, expect, it } from "vitest";

import { gripsOf, middleOf, mirroredSolid, movedSolid, pointsOf, pointsText, readPoints, type Region } from "./solids"; // prettier-ignore

const BOX: Region = { kind: "box", center: [100, 50, 600], size: [200, 100, 60], turn: [0, 0, 0] };
const TUBE: Region = { kind: "tube", path: [[0, 10, 500], [300, 10, 500], [300, 400, 450]], diameter: 60 }; // prettier-ignore
const SIDE: Region = { kind: "prism", along: "y", from: -100, to: 150, outline: [[0, 0], [400, 0], [400, 200]] }; // prettier-ignore
const END: Region = { kind: "prism", along: "x", from: -100, to: 150, outline: [[10, 0], [90, 0], [90, 200]] }; // prettier-ignore
const HULL: Region = { kind: "hull", points: [[0, 0, 0], [9, 1, 0], [0, 9, 0], [0, 0, 9]] }; // prettier-ignore
const HOLES: Region = { kind: "holes", at: [[600, 450, 200], [600, 450, 225]] }; // prettier-ignore
const EVERY = [BOX, TUBE, SIDE, END, HULL, HOLES] as const;

const by = (solid: Region, key: string, move: [number, number, number]): Region => {
  const grip = gripsOf(solid).find((one) => one.key === key)!;
  return grip.moved(move);
};

describe("a solid", () => {
  it.each(EVERY)("moves as a whole, and back: %#", (solid) => {
    const moved = movedSolid(solid, [10, -20, 30]);
    const [from, to] = [middleOf(solid), middleOf(moved)];
    expect(to.map((v, i) => v - from[i]!)).toEqual([10, -20, 30]);
    expect(movedSolid(moved, [-10, 20, -30])).toEqual(solid);
  });

  it.each(EVERY)("is its own mirror image's mirror image: %#", (solid) => {
    const mirrored = mirroredSolid(solid);
    expect(mirroredSolid(mirrored)).toEqual(solid);
    const [from, to] = [middleOf(solid), middleOf(mirrored)];
    expect(to.map((v) => v || 0)).toEqual([from[0], -from[1] || 0, from[2]]);
    expect(pointsOf(mirrored)).toHaveLength(pointsOf(solid).length);
  });

  it("that is turned keeps its mirror image turned the other way", () =>
    expect(mirroredSolid({ ...BOX, turn: [10, 20, 30] })).toMatchObject({
      center: [100, -50, 600],
      turn: [-10, 20, -30],
    }));

  it("is pulled by a face, the opposite one staying", () => {
    expect(by(BOX, "0 1", [30, 99, 99])).toMatchObject({ center: [115, 50, 600], size: [230, 100, 60] });
    expect(by(BOX, "2 -1", [0, 0, -20])).toMatchObject({ center: [100, 50, 590], size: [200, 100, 80] });
    expect(by(BOX, "1 1", [0, -500, 0])).toMatchObject({ size: [200, 1, 60] });
    expect(gripsOf({ ...BOX, turn: [0, 0, 15] }).map((grip) => grip.key)).toEqual(["whole"]);
  });

  it("is pulled by a point of its path, a corner, an end, a hole", () => {
    expect(by(TUBE, "1", [5, 6, 7])).toMatchObject({ path: [[0, 10, 500], [305, 16, 507], [300, 400, 450]] }); // prettier-ignore
    expect(by(SIDE, "2", [5, 99, 7])).toMatchObject({ outline: [[0, 0], [400, 0], [405, 207]] }); // prettier-ignore
    expect(by(END, "0", [99, 5, 7])).toMatchObject({ outline: [[15, 7], [90, 0], [90, 200]] }); // prettier-ignore
    expect(by(SIDE, "to", [0, 20, 0])).toMatchObject({ from: -100, to: 170 });
    expect(by(SIDE, "from", [0, 900, 0])).toMatchObject({ from: 149, to: 150 });
    expect(by(HOLES, "1", [0, 0, 3])).toMatchObject({ at: [[600, 450, 200], [600, 450, 228]] }); // prettier-ignore
  });
});

describe("points typed", () => {
  const path = [[0, 10.3, 500], [304.8, 10.3, 500]] as const; // prettier-ignore

  it("come back as they were where nobody touched them", () => {
    const text = pointsText(path, "in16");
    expect(text.split("\n")).toHaveLength(2);
    expect(readPoints(text, 3, "in16", path)).toEqual(path.map((p) => [...p]));
  });

  it("are read in tape notation, with any of the separators", () => {
    const read = readPoints("1 1/2, 0; 10\n\n-2\t3/8,20 mm", 3, "in16") as number[][];
    expect(read.flat().map((v) => Math.round(v * 1e6) / 1e6)).toEqual([38.1, 0, 254, -50.8, 9.525, 20]);
    expect(readPoints("100, 200\n5, 6", 2, "mm")).toEqual([[100, 200], [5, 6]]); // prettier-ignore
  });

  it.each([
    ["1, 2", 3, "Line 1: 3 figures"],
    ["1, 2, 3\n4, x, 6", 3, "Line 2: Type a length"],
  ] as const)("that can't be read are named by their line: %s", (text, count, words) =>
    expect(readPoints(text, count, "mm")).toContain(words),
  );
});
