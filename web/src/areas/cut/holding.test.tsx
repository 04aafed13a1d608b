import { afterEach, describe, expect, it } from "vitest";

import special from "../../../../server/builds/demo/bracketed/ghyll-special-rear.json";
import type { Document } from "../../document/document";
import { area, CUT, left, now, open } from "../../testing/cutting";
import { press } from "../../testing/screen";
import { ok } from "../../testing/server";
import { Brackets } from "./Brackets";
import { rowOf, withFirstMount, withMountIn, withRow, withTips, mountsBeside } from "./making";
import { useOpenBracket } from "./PlateGrips";

const design = special as unknown as Document;
const named = (document: Document, mount: string) =>
  document.brackets!.find(({ mounts }) => mounts.includes(mount))!;

afterEach(() => {
  left();
  useOpenBracket.setState({ open: null });
});

describe("a bracket and its twin", () => {
  it("hold another mount, each of its own side, and the first alone again", () => {
    const bare = {
      ...design,
      brackets: design.brackets!.filter(({ mounts }) => !mounts[0]!.startsWith("upper")),
    };
    const lower = named(bare, "lower-left.axle");
    const beside = mountsBeside(bare, lower);
    expect(beside.map(({ name }) => name)).toEqual(["upper-left.axle", "upper-right.axle"]);
    const both = withMountIn(bare, lower, beside[0]!);
    expect(named(both, "lower-left.axle").mounts).toEqual(["lower-left.axle", "upper-left.axle"]);
    expect(named(both, "lower-right.axle").mounts).toEqual(["lower-right.axle", "upper-right.axle"]);
    const again = withFirstMount(both, named(both, "lower-left.axle"));
    expect(again.brackets!.every(({ mounts }) => mounts.length === 1)).toBe(true);
  });

  it("are drilled with the row that their mounts stand in, without the holes that are there", () => {
    const lower = { ...named(design, "lower-left.frame"), holes: [] };
    expect(rowOf(design, lower)).toHaveLength(3);
    const drilled = withRow(design, lower);
    expect(named(drilled, "lower-left.frame").holes.every(([, y]) => y > 0)).toBe(true);
    expect(named(drilled, "lower-right.frame").holes.map(([, y]) => Math.sign(y))).toEqual([-1, -1, -1]);
    expect(rowOf(design, named(design, "lower-left.axle"))).toEqual([]);
  });

  it("have their tips cut alike", () => {
    const cut = withTips(design, named(design, "upper-right.axle"), "square");
    expect(named(cut, "upper-left.axle").tips).toBe("square");
    expect(named(cut, "lower-left.axle").tips).not.toBe("square");
  });

  it("are changed so on the page", async () => {
    const bare = { ...design, brackets: design.brackets!.map((one) => ({ ...one, holes: [] })).slice(0, -2) };
    const lower = named(bare, "lower-left.frame");
    open({ "POST /api/cut": () => ok(CUT) }, bare);
    useOpenBracket.setState({ open: lower.id });
    await area(<Brackets id={7} document={bare} units="mm" />);
    await press("Drill its row: 3 holes more");
    expect(named(now(), "lower-right.frame").holes).toHaveLength(3);
    left();
    open({ "POST /api/cut": () => ok(CUT) }, bare);
    useOpenBracket.setState({ open: named(bare, "lower-left.axle").id });
    await area(<Brackets id={7} document={bare} units="mm" />);
    await press("Tips cut square");
    expect(named(now(), "lower-right.axle").tips).toBe("square");
  });
});

it("a bracket whose file leaves its holes out is opened like any other", async () => {
  const plain: Record<string, unknown> = { ...named(design, "lower-left.frame") };
  delete plain["holes"];
  delete plain["tips"];
  const bare = { ...design, brackets: [plain] } as unknown as Document;
  open({ "POST /api/cut": () => ok(CUT) }, bare);
  useOpenBracket.setState({ open: String(plain["id"]) });
  await area(<Brackets id={7} document={bare} units="mm" />);
  await press("Drill its row: 3 holes more");
  expect(now().brackets![0]!.holes).toHaveLength(3);
});
