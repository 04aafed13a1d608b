import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { type Document, spotsOf } from "../../document/document";
import { useDesign } from "../../state/design";
import { useSaid } from "../../state/said";
import { clear, find, key, press, said, settle, shown, type } from "../../testing/screen";
import { ok, serve } from "../../testing/server";
import { tender } from "../../testing/solved";
import {
  boltAngles,
  boltOf,
  type Cell,
  cellsOf,
  copied,
  pasted,
  readCell,
  rowsOf,
  stands,
  taken,
} from "./tape";
import { TapeSheet } from "./TapeSheet";

const at = (document: Document, name: string) => spotsOf(document).find((m) => m.name === name)!.at;
const grid = (document: Document) => rowsOf(document).map((row) => cellsOf(document, row));
const cell = (name: string, column: Cell["column"], document = tender): Cell =>
  grid(document).flat().find((one) => one?.mount.name === name && one.column === column)!; // prettier-ignore
const typed = (entries: [string, Cell["column"], string][]) =>
  Object.fromEntries(entries.map(([name, column, text]) => [cell(name, column).id, text]));

describe("the sheet", () => {
  it("has each pair in one row, left and right side by side", () => {
    const rows = rowsOf(tender);
    expect(rows).toHaveLength(spotsOf(tender).length / 2);
    for (const row of rows) {
      expect(row.left!.at[1]).toBeGreaterThan(0);
      expect(row.right!.at[1]).toBeLessThan(0);
      expect(row.label).not.toMatch(/left|right/i);
    }
  });

  it("shows what stands as it can be typed back", () => {
    for (const one of grid(tender)
      .flat()
      .filter((c) => c !== null)) {
      const text = stands(tender, one, "mm");
      const read = readCell(text, one, "mm");
      if (one.column === "bolt") expect(read).toBeNull();
      else
        expect(
          Math.abs((read as number) - one.mount.at[{ up: 2, ahead: 0, out: 1 }[one.column]]!),
        ).toBeLessThan(0.51);
    }
  });

  it("turns a bolt by its left end, both ways round", () => {
    for (const [forward, up] of [[0, 0], [30, 0], [-45, 10], [89, -60]] as const) {
      const [f, u] = boltAngles(boltOf(forward, up));
      expect([f, u].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([forward, up]);
      const turned = boltAngles(boltOf(forward, up).map((v) => -v));
      expect(turned[0]).toBeCloseTo(forward, 6);
    } // prettier-ignore
    expect(readCell("12 / -3", cell("upper-left.frame", "bolt"), "mm")).toEqual(boltOf(12, -3));
    expect(readCell("square", cell("upper-left.frame", "bolt"), "mm")).toBeNull();
    expect(readCell("a bit", cell("upper-left.frame", "bolt"), "mm")).toContain("Type degrees");
  });
});

describe("taking it", () => {
  it("takes the other side along, and parts a pair whose sides were both read and differ", () => {
    const alone = taken(tender, typed([["upper-left.frame", "up", "640"]]), "mm", false);
    expect(at(alone.document, "upper-right.frame")[2]).toBe(640);
    expect(alone.document.unpaired ?? []).toEqual([]);
    const both = taken(
      tender,
      typed([["upper-left.frame", "up", "640"], ["upper-right.frame", "up", "655"]]), "mm", false); // prettier-ignore
    expect([at(both.document, "upper-left.frame")[2], at(both.document, "upper-right.frame")[2]]).toEqual([
      640, 655,
    ]);
    expect([...both.document.unpaired!].sort()).toEqual(["upper-left.frame", "upper-right.frame"]);
    const same = taken(
      tender,
      typed([["upper-left.frame", "up", "640"], ["upper-right.frame", "up", "640"]]), "mm", false); // prettier-ignore
    expect(same.document.unpaired ?? []).toEqual([]);
  });

  it("keeps what is wrong and takes the rest", () => {
    const found = taken(
      tender,
      typed([["upper-left.frame", "up", "640"], ["upper-left.frame", "out", "wide"], ["lower-left.axle", "up", "-700"]]),
      "mm", false); // prettier-ignore
    expect(at(found.document, "upper-left.frame")[2]).toBe(640);
    expect(Object.values(found.wrong)).toEqual(["Type a length, like 9 1/4 or 235 mm."]);
    expect(Object.values(found.odd)).toEqual(["That is below the floor."]);
    expect(at(found.document, "lower-left.axle")).toEqual(at(tender, "lower-left.axle"));
    const meant = taken(tender, typed([["lower-left.axle", "up", "-700"]]), "mm", true);
    expect(at(meant.document, "lower-left.axle")[2]).toBeLessThan(0);
  });

  it("mirrors a bolt to the other side", () => {
    const { document } = taken(tender, typed([["upper-left.frame", "bolt", "20 / 5"]]), "mm", false);
    const [left, right] = ["upper-left.frame", "upper-right.frame"].map((name) =>
      stands(document, cell(name, "bolt", document), "mm"),
    );
    expect([left, right]).toEqual(["20.0 / 5.0", "−20.0 / −5.0"]);
  });
});

describe("a spreadsheet", () => {
  it("gives back what was copied from the sheet", () => {
    const lines = copied(tender, "mm").trimEnd().split("\n");
    expect(lines).toHaveLength(1 + rowsOf(tender).length);
    const block = lines.slice(1).map((line) => line.split("\t").slice(1).join("\t")).join("\n"); // prettier-ignore
    const drafts = pasted(grid(tender), grid(tender)[0]![0]!, block);
    const { document, wrong, odd } = taken(tender, drafts, "mm", false);
    expect([wrong, odd]).toEqual([{}, {}]);
    for (const spot of spotsOf(document))
      expect(Math.hypot(...spot.at.map((v, i) => v - at(tender, spot.name)[i]!))).toBeLessThan(0.9);
  });

  it("is cut off at the table's edge, and empty cells change nothing", () => {
    const cells = grid(tender);
    const last = cells.at(-1)!.at(-1)!;
    expect(Object.keys(pasted(cells, last, "0\t9\t9\n9\t9"))).toEqual([last.id]);
    expect(pasted(cells, cells[0]![0]!, "\t\n\t")).toEqual({});
  });
});

describe("on the screen", () => {
  const revision = { design: 7, build: 3, number: 4, truck: 1, stored_on: 1, document: tender };
  beforeEach(() => {
    serve({
      "POST /api/designs/7/revisions": (body) => ok({ ...revision, number: 5, document: body["document"] }),
    });
    useDesign.setState({
      stored: revision as never,
      document: tender,
      past: [],
      future: [],
      sync: { state: "stored" },
    });
    useSaid.getState().read();
  });
  afterEach(() => {
    clear();
    vi.unstubAllGlobals();
  });
  const field = (name: string, column: Cell["column"]) =>
    find<HTMLInputElement>(`[data-cell="${cell(name, column).id}"]`);

  it("is walked down a column by Enter and Tab, typed and taken as one edit", async () => {
    let closed = false;
    await shown(<TapeSheet document={tender} units="mm" onClose={() => (closed = true)} />);
    const first = grid(tender)[0]![0]!;
    const below = grid(tender)[1]![0]!;
    const start = find<HTMLInputElement>(`[data-cell="${first.id}"]`);
    start.focus();
    await type(start, "401");
    expect(said()).toContain("Understood as 401 mm");
    await key(start, "Enter");
    expect((document.activeElement as HTMLElement).dataset["cell"]).toBe(below.id);
    await type(document.activeElement as HTMLInputElement, "402");
    await key(document.activeElement as HTMLInputElement, "Tab");
    await press("Take 2 figures");
    await settle();
    expect(useDesign.getState().past).toHaveLength(1);
    expect(at(useDesign.getState().document!, first.mount.name)[2]).toBe(401);
    await press("Close");
    expect(closed).toBe(true);
  });

  it("marks what can't be read; closing takes the rest and says what was not taken", async () => {
    await shown(<TapeSheet document={tender} units="mm" onClose={() => undefined} />);
    await type(field("upper-left.frame", "up"), "640");
    await type(field("upper-left.frame", "out"), "wide");
    expect(field("upper-left.frame", "out").getAttribute("aria-invalid")).toBe("true");
    await press("Close");
    await settle();
    expect(at(useDesign.getState().document!, "upper-left.frame")[2]).toBe(640);
    expect(useSaid.getState().said!.words).toContain("“wide”");
  });
});
