import { describe, expect, it } from "vitest";

import wattsFile from "../../../server/builds/demo/ghyll-special-rear.json";
import { bodiesOf, type Document, spotsOf } from "../document/parts";
import { finding, solvedTender, tender } from "../testing/solved";
import { closeUp, extentOf } from "./aim";
import { barOf, barsNow, distance } from "./bars";
import { isMarked } from "./Floor";
import { atRide, standing } from "./geometry";
import { centerOfGravity } from "./Plate";

const watts = wattsFile as unknown as Document;
const radius = watts.axle.tire_radius_loaded;
const near = (a: readonly number[], b: readonly number[]) =>
  a.forEach((v, i) => expect(v).toBeCloseTo(b[i]!, 9));

describe("standing", () => {
  it("at ride leaves everything where the file has it", () => {
    const ride = atRide(radius);
    for (const spot of spotsOf(watts)) near(ride.place(spot.on, spot.at), spot.at);
    for (const body of bodiesOf(watts)) near(ride.end(body.a), body.a.at);
  });

  it("carries the axle's points and leaves the frame's", () => {
    const up = standing([10, 0, radius + 50, 0, 0, 0, 0], radius);
    expect(up.place("axle", [1, 2, 3])).toEqual([11, 2, 53]);
    expect(up.place("frame", [1, 2, 3])).toEqual([1, 2, 3]);
    expect(up.back("frame", [1, 2, 3])).toEqual([1, 2, 3]);
  });

  it("turns a movement back as the body that carries it is turned", () => {
    const quarter = standing([0, 0, radius, 0, 0, Math.PI / 2, 0], radius);
    near(quarter.back("axle", [0, 1, 0]), [1, 0, 0]);
    const turn = [[0, -1, 0], [1, 0, 0], [0, 0, 1]]; // prettier-ignore
    const carried = standing([0, 0, radius, 0, 0, 0, 0], radius, { arm: { turn, shift: [5, 0, 0] } });
    expect(carried.place("arm", [1, 0, 0])).toEqual([5, 1, 0]);
    near(carried.back("arm", [0, 1, 0]), [1, 0, 0]);
  });

  it("turns the bell crank about its pin, its ends as far from it as ever", () => {
    const crank = bodiesOf(watts).find((b) => b.shape === "crank")!;
    const turned = standing([0, 0, radius, 0, 0, 0, 0.3], radius);
    const [a, b] = [turned.end(crank.a), turned.end(crank.b)];
    const pivot = turned.place(crank.a.on, crank.a.pivot!);
    expect(distance(a, pivot)).toBeCloseTo(distance(crank.a.at, crank.a.pivot!), 9);
    near(
      [0, 1, 2].map((i) => (a[i]! + b[i]!) / 2),
      pivot,
    );
    expect(distance(a, crank.a.at)).toBeGreaterThan(1);
  });
});

describe("bars", () => {
  it("are the links, arms and rods, not cranks and struts", () => {
    expect(barsNow(watts, atRide(radius)).map((bar) => bar.id)).toEqual([
      "lower-left", "lower-right", "upper-left", "upper-right", "watts-left", "watts-right",
    ]); // prettier-ignore
  });

  it("are found by a mount at either end", () => {
    const mount = (name: string) => spotsOf(watts).find((s) => s.name === name)!;
    expect(barOf(watts, mount("watts-left.frame"))?.id).toBe("watts-left");
    expect(barOf(watts, mount("upper-left.axle"))?.id).toBe("upper-left");
    expect(barOf(watts, mount("watts.pivot"))).toBeUndefined();
  });
});

describe("marks of a finding", () => {
  const rod = spotsOf(watts).find((s) => s.name === "watts-left.frame")!;
  it("are at the joint it names, or at both ends of the bar it names", () => {
    expect(isMarked(rod, ["watts-left.frame"])).toBe(true);
    expect(isMarked(rod, ["watts-left"])).toBe(true);
    expect(isMarked(rod, ["watts-right"])).toBe(false);
    expect(isMarked(rod, ["watts-left.axle"])).toBe(false);
    expect(isMarked(rod, finding("swing").place.parts)).toBe(false);
  });
});

describe("what the drawing holds", () => {
  it("is tires, mounts and the center of gravity", () => {
    const { low, high } = extentOf(tender);
    for (const { at } of spotsOf(tender))
      at.forEach((v, i) => expect(v >= low[i]! && v <= high[i]!).toBe(true));
    const center = centerOfGravity(tender);
    expect(center[0]).toBeCloseTo(tender.vehicle.wheelbase * tender.vehicle.front_share, 9);
    expect(center[0]).toBeLessThan(high[0]);
    const front = { ...tender, axle: { ...tender.axle, end: "front" as const } };
    expect(centerOfGravity(front)[0]).toBeLessThan(0);
  });

  it("close up is the chosen mount's whole link", () => {
    const cell = { width: 600, height: 400 };
    const aim = closeUp(tender, ["links.2.frame.at"], cell)!;
    const [a, b] = ["upper-left.axle", "upper-left.frame"].map(
      (n) => spotsOf(tender).find((s) => s.name === n)!.at,
    );
    near(
      aim.middle,
      [0, 1, 2].map((i) => (a![i]! + b![i]!) / 2),
    );
    expect(aim.scale * Math.abs(a![0] - b![0])).toBeCloseTo(0.6 * cell.width, 6);
    expect(closeUp(tender, [], cell)).toBeNull();
  });

  it("answers of the cycle carry nothing where no link does", () =>
    expect(solvedTender().answer.carried).toEqual({}));
});
