import { act } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { freeId, keepOutsOf, reachOf, withKeepOut, withoutKeepOut, withTypical } from "../../document/room";
import { useDesign } from "../../shell/design";
import { useTruck } from "../../shell/truck";
import { clear, find, press, said, settle, shown, type } from "../../testing/screen";
import { ok, serve } from "../../testing/server";
import { tender } from "../../testing/solved";
import { keepOutOf, RoomPane, saidOf } from "./RoomPane";

const BOX = {
  name: "Fuel tank",
  ahead: "500",
  left: "-20",
  up: "800",
  long: "400",
  wide: "300",
  high: "200",
};
const revision = {
  design: 7, build: 3, build_name: "Fell tender", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z",
  document: tender,
}; // prettier-ignore
const tank = keepOutOf("box", "frame", BOX, "mm") as Exclude<ReturnType<typeof keepOutOf>, string>;

describe("keep-outs", () => {
  it("are read in tape notation", () => {
    expect(tank.solid).toEqual({
      kind: "box",
      center: [500, -20, 800],
      size: [400, 300, 200],
      turn: [0, 0, 0],
    });
    const pipe = keepOutOf("tube", "axle", { ...BOX, round: "60", gap: "38" }, "mm");
    expect(pipe).toMatchObject({ on: "axle", gap: 38, solid: { kind: "tube", path: [[500, -20, 800], [400, 300, 200]], diameter: 60 } }); // prettier-ignore
  });

  it.each([
    ["box", { ...BOX, name: " " }, "name"],
    ["box", { ...BOX, up: "high" }, "off the floor"],
    ["box", { ...BOX, wide: "0" }, "wider"],
    ["box", { ...BOX, gap: "-3" }, "not below nothing"],
    ["box", { ...BOX, gap: "wide" }, "Wanted clear"],
    ["tube", { ...BOX, round: "0" }, "diameter"],
    ["tube", { ...BOX, long: "500", wide: "-20", high: "800", round: "50" }, "one place"],
  ] as const)("of a %s with %o are refused in words", (shape, texts, words) =>
    expect(keepOutOf(shape, "frame", texts, "mm")).toContain(words),
  );

  it("have ids of their own, and are left out again", () => {
    const twice = withKeepOut(withKeepOut(tender, tank), tank);
    expect(keepOutsOf(twice).map(({ id }) => id)).toEqual(["fuel-tank", "fuel-tank-2"]);
    expect(keepOutsOf(withoutKeepOut(twice, "fuel-tank")).map(({ id }) => id)).toEqual(["fuel-tank-2"]);
    expect(freeId(tender, "Lower left")).toBe("lower-left-2");
    expect(freeId(tender, "Housing")).toBe("housing-2");
    expect(freeId(tender, "¿?")).toBe("keep-out");
  });

  it("are held by a view of all of it", () => {
    expect(reachOf(tender)).toEqual([]);
    expect(reachOf(withKeepOut(tender, tank))).toEqual([
      [300, -170, 700],
      [700, 130, 900],
    ]);
  });

  it("are said in words", () => {
    expect(saidOf({ ...tank, id: "tank" }, "mm")).toBe(
      "box 400 mm by 300 mm by 200 mm, on the frame, 25 mm wanted clear",
    );
  });

  it.each(["rails", "crossmember", "tank", "floor"])("start from typical ones: %s", (which) => {
    const made = keepOutsOf(withTypical(tender, which)!);
    expect(made.length).toBe(which === "rails" ? 2 : 1);
    for (const { solid } of made) expect(solid.kind === "box" && solid.size.every((v) => v > 0)).toBe(true);
  });

  it("of rails that nobody knows are none", () =>
    expect(withTypical({ ...tender, rails: null }, "rails")).toBeNull());
});

describe("the room", () => {
  let leave: (() => void) | null = null;
  beforeEach(async () => {
    useTruck.setState({ truck: null, since: null, trouble: null });
    useDesign.setState({
      stored: revision, document: tender, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
    }); // prettier-ignore
    serve({
      "POST /api/designs/7/revisions": (body) => ok({ ...revision, number: 5, document: body["document"] }),
    });
    ({ leave } = await shown(<RoomPane document={tender} units="mm" onClose={() => undefined} />));
  });
  afterEach(() => {
    leave?.();
    clear();
    vi.unstubAllGlobals();
  });
  const send = () => act(() => find<HTMLFormElement>("form").requestSubmit());

  it("teaches what it is for, takes a box, and says what can't be read", async () => {
    expect(said()).toContain("Nothing is said yet.");
    send();
    await settle();
    expect(said()).toContain("Give it a name.");
    for (const [key, text] of Object.entries(BOX))
      await type(find<HTMLInputElement>(`[data-keep-out-field="${key}"]`), text);
    send();
    await settle();
    expect(keepOutsOf(useDesign.getState().document!).map(({ name }) => name)).toEqual(["Fuel tank"]);
    act(() => useDesign.getState().undo());
    expect(keepOutsOf(useDesign.getState().document!)).toEqual([]);
  });

  it("leaves one out", async () => {
    const document = withKeepOut(tender, tank);
    act(() => useDesign.setState({ document }));
    leave?.();
    ({ leave } = await shown(<RoomPane document={document} units="mm" onClose={() => undefined} />));
    await press("Leave out Fuel tank");
    await settle();
    expect(keepOutsOf(useDesign.getState().document!)).toEqual([]);
  });
});
