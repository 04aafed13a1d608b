import { afterEach, describe, expect, it } from "vitest";

import type { Document } from "../../document/document";
import { atRide } from "../../floor/geometry";
import { CUT } from "../../testing/cutting";
import { area, design, field, left, now, open, submitted, type } from "../../testing/cutting";
import { find, key, press, said } from "../../testing/screen";
import { ok } from "../../testing/server";
import type { CutOut } from "./plate";
import { EdgeGrip, TrussGrips, useOpenBracket } from "./PlateGrips";
import { type Truss, withCorner, withMoreCorners, withoutCorner } from "./truss";
import { TrussDrawn } from "./TrussDrawn";
import { Brackets } from "./Brackets";

const TRUSS: Truss = { top: [[-450, 520], [-150, 620], [150, 620], [450, 520]], width: 60, ahead: 0, plate: 4.8 }; // prettier-ignore
const trussed = { ...design, truss: TRUSS } as Document;
const scene = {
  standing: atRide(444.5), cell: { width: 600, height: 400 }, aim: { middle: [0, 0, 600], scale: 1 },
} as never as Omit<Parameters<typeof TrussGrips>[0], "document" | "view">; // prettier-ignore

afterEach(() => {
  left();
  useOpenBracket.setState({ open: null });
});

describe("a truss’s corners", () => {
  it("go with their mirror images", () => {
    expect(withCorner(TRUSS, 1, [-160, 630]).top).toEqual([[-450, 520], [-160, 630], [160, 630], [450, 520]]); // prettier-ignore
    const lone = {
      ...TRUSS,
      top: [
        [-450, 500],
        [450, 520],
      ] as Truss["top"],
    };
    expect(withCorner(lone, 0, [-440, 500]).top).toEqual([[-440, 500], [450, 520]]); // prettier-ignore
  });

  it("become one more in the longest bay, and one fewer", () => {
    const more = withMoreCorners({
      ...TRUSS,
      top: [
        [-450, 520],
        [-150, 620],
        [450, 520],
      ],
    });
    expect(more.top).toEqual([[-450, 520], [-150, 620], [150, 570], [450, 520]]); // prettier-ignore
    expect(withoutCorner(more, 2).top).toEqual([[-450, 520], [-150, 620], [450, 520]]); // prettier-ignore
  });
});

describe("a truss on the page", () => {
  const take = (change: (document: Document) => Document) => {
    open({}, change(now()));
    return Promise.resolve(true);
  };

  it("is put there by the core", async () => {
    open({ "POST /api/add": () => ok({ document: trussed }) });
    await area(<TrussDrawn document={design} units="mm" found={null} take={take} />);
    await press("Draw a truss over the axle tube");
    expect(now().truss).toEqual(TRUSS);
  });

  it("takes sizes and corners that are typed, both sides alike, and is left out", async () => {
    open({}, trussed);
    await area(<TrussDrawn document={trussed} units="mm" found={null} take={take} />);
    await type("Plate", "6");
    await type("Corner 2, off the floor", "640");
    await submitted("Truss");
    expect(now().truss).toMatchObject({ plate: 6, top: [[-450, 520], [-150, 640], [150, 640], [450, 520]] }); // prettier-ignore
    await press("One corner fewer");
    expect(now().truss!.top).toHaveLength(3);
    await press("Leave the truss out");
    expect(now().truss).toBeNull();
    expect(field("Plate")).toBeDefined();
  });

  it("says why it can’t be made", async () => {
    const faults = [{ path: "truss.top[1]", message: "comes nearer to the housing than 9.5 mm" }];
    open({ "POST /api/cut": () => ok({ ...CUT, faults }) }, trussed);
    await area(<Brackets id={7} document={trussed} units="mm" />);
    expect(said()).toContain("comes nearer to the housing than 9.5 mm");
  });

  it("is moved by its corners in the rear view alone", async () => {
    open({}, trussed);
    await area(
      <svg>
        <TrussGrips {...scene} document={trussed} view="side" />
        <TrussGrips {...scene} document={trussed} view="rear" />
      </svg>,
    );
    const grips = [...document.querySelectorAll("[data-pull]")];
    expect(grips).toHaveLength(4);
    await key(grips[1]!, "ArrowUp");
    expect(now().truss!.top[1]![1]).toBeGreaterThan(620);
    expect(now().truss!.top[2]![1]).toBe(now().truss!.top[1]![1]);
    expect(now().truss!.top[1]![0]).toBe(-150);
  });
});

describe("a bracket’s edge", () => {
  const bracket = { id: "b1", mounts: ["lower-left.axle"], base: { kind: "tube" }, plate: 6.35, edge: 25, washer: 0, shrink: 0.8, holes: [] }; // prettier-ignore
  const one = { ...design, brackets: [bracket] } as unknown as Document;
  const square = [[-25, -80], [25, -80], [25, 25], [-25, 25]]; // prettier-ignore
  const plate = {
    part: "b1-2",
    outline: square,
    holes: [[0, 0, 13]],
    origin: [70, 517, 397],
    u: [1, 0, 0],
    v: [0, 0, 1],
  };
  const found = {
    ...CUT,
    brackets: [{ id: "b1", mounts: ["lower-left.axle"], plates: [plate, plate] }],
  } as never as CutOut;

  it("is moved away from its foot where the view shows that way", async () => {
    open({}, one);
    useOpenBracket.setState({ open: "b1" });
    await area(
      <svg>
        <EdgeGrip {...scene} found={found} document={one} view="top" />
        <EdgeGrip {...scene} found={found} document={one} view="side" />
      </svg>,
    );
    expect(document.querySelectorAll("[data-pull]")).toHaveLength(1);
    await key(find<never>("[data-pull]"), "ArrowUp");
    expect(now().brackets![0]!.edge).toBeGreaterThan(25);
    await key(find<never>("[data-pull]"), "ArrowDown");
    await key(find<never>("[data-pull]"), "ArrowDown");
    expect(now().brackets![0]!.edge).toBeLessThan(25);
    const stands = now().brackets![0]!.edge;
    await key(find<never>("[data-pull]"), "ArrowLeft");
    expect(now().brackets![0]!.edge).toBe(stands);
  });

  it("has no grip while no bracket is open", async () => {
    open({}, one);
    await area(
      <svg>
        <EdgeGrip {...scene} found={found} document={one} view="side" />
      </svg>,
    );
    expect(document.querySelectorAll("[data-pull]")).toHaveLength(0);
  });
});

it("a truss whose file says nothing of where it stands is over the tube", async () => {
  const plain = { top: TRUSS.top, width: 60, plate: 4.8 } as Truss;
  const document_ = { ...design, truss: plain } as Document;
  open({}, document_);
  await area(
    <svg>
      <TrussGrips {...scene} document={document_} view="rear" />
    </svg>,
  );
  const at = [...document.querySelectorAll("[data-pull] circle")].map((one) => one.getAttribute("cx"));
  expect(at.every((x) => x !== null && Number.isFinite(Number(x)))).toBe(true);
});
