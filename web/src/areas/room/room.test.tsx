import { act } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { type Document, isRightOfPair, pairOf } from "../../document/document";
import {
  found, freeId, keepOutAcross, holesOf, keepOutsOf, nearestHole, nextHole, reachOf, type Which, withChanged, withKeepOut, withMirrored, withZone, zonedAbout, zonesOf,
} from "../../document/room"; // prettier-ignore
import { useDesign } from "../../state/design";
import { useRoom } from "../../state/room";
import { useSelection } from "../../state/selection";
import { useTruck } from "../../state/truck";
import { clear, find, press, said, settle, shown, type } from "../../testing/screen";
import { type Asked, lastOf, ok, refused, serve } from "../../testing/server";
import { roomyTender, tender } from "../../testing/solved";
import { Editor, fieldsOf, shapeTyped } from "./Editor";
import { limitWords, Sums } from "./Sums";
import { saidOf, Ways } from "./Ways";
import { asksFor, Zones } from "./Zones";

const revision = {
  design: 7, build: 3, build_name: "Fell tender", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z",
  document: tender,
}; // prettier-ignore
const BOX = { kind: "box", center: [500, -20, 800], size: [400, 300, 200], turn: [0, 0, 0] } as const;
const tank = {
  name: "Fuel tank",
  on: "frame",
  gap: 25,
  except: [],
  solid: BOX,
} as unknown as Parameters<typeof withKeepOut>[1];
const TANK: Which = { list: "keep_outs", id: "fuel-tank" };
const withTank = withKeepOut(tender, tank);

let leave: (() => void) | null = null;
let asked: Asked[] = [];
let gaps = ok([]);

function open(document: Document, answers: Parameters<typeof serve>[0] = {}) {
  useTruck.setState({ truck: null, since: null, trouble: null });
  useRoom.setState({ chosen: null });
  useSelection.setState({ chosen: [] });
  useDesign.setState({
    stored: { ...revision, document }, document, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
  }); // prettier-ignore
  gaps = ok([]);
  asked = serve({
    "POST /api/designs/7/revisions": (body) => ok({ ...revision, number: 5, document: body["document"] }),
    "POST /api/gaps": () => gaps,
    ...answers,
  });
}
const now = () => useDesign.getState().document!;

afterEach(() => {
  leave?.();
  leave = null;
  clear();
  vi.unstubAllGlobals();
});

describe("keep-outs", () => {
  it("have ids of their own, and are left out again", () => {
    const twice = withKeepOut(withTank, tank);
    expect(keepOutsOf(twice).map(({ id }) => id)).toEqual(["fuel-tank", "fuel-tank-2"]);
    expect(keepOutsOf(withChanged(twice, TANK, null)).map(({ id }) => id)).toEqual(["fuel-tank-2"]);
    expect(freeId(tender, "Lower left")).toBe("lower-left-2");
    expect(freeId(tender, "Housing")).toBe("housing-2");
    expect(freeId(tender, "¿?")).toBe("keep-out");
  });

  it("are held by a view of all of it", () => {
    expect(reachOf(tender)).toEqual([]);
    expect(reachOf(withTank)).toEqual([
      [300, -170, 700],
      [700, 130, 900],
    ]);
  });

  it("are said in words", () =>
    expect(saidOf({ ...tank, id: "tank" }, "mm")).toBe("box 400 × 300 × 200, 25 mm clear"));

  it("find what stands across from them, by where that reaches", () => {
    const both = withMirrored(withTank, TANK);
    const [one, other] = keepOutsOf(both).map(({ id }) => id);
    expect(keepOutAcross(both, one!)).toBe(other);
    expect(keepOutAcross(withTank, one!)).toBeUndefined();
    expect(keepOutAcross(withTank, "upper-left")).toBeUndefined();
    expect(pairOf(tender, "upper-left")).toBe("upper-right");
    expect(pairOf(tender, "tire-left")).toBe("tire-right");
    expect(pairOf(tender, "nothing")).toBeUndefined();
    expect([isRightOfPair(tender, "upper-right"), isRightOfPair(tender, "upper-left")]).toEqual([
      true,
      false,
    ]);
  });

  it("are mirrored with what is bolted to them", () => {
    const left = withKeepOut(tender, { ...tank, name: "Left rail", except: ["upper-left"] });
    const both = withMirrored(left, { list: "keep_outs", id: "left-rail" });
    expect(keepOutsOf(both)[1]).toMatchObject({
      id: "right-rail",
      name: "Right rail",
      except: ["upper-right"],
      solid: { center: [500, 20, 800] },
    });
    expect(withMirrored(left, TANK)).toBe(left);
  });
});

describe("a zone", () => {
  it("about a mount is drawn for its twin too", () => {
    const region = { kind: "holes", at: [[600, 450, 200]] } as unknown as Parameters<typeof withZone>[3];
    const both = zonedAbout(tender, "upper-left.frame", region, "Upper left, frame end");
    expect(zonesOf(both).map(({ name, mounts }) => [name, mounts])).toEqual([
      ["Upper left, frame end", ["upper-left.frame"]],
      ["Upper right, frame end", ["upper-right.frame"]],
    ]);
    expect(zonesOf(both)[1]!.region).toMatchObject({ at: [[600, -450, 200]] });
    const mirrored = withMirrored(both, { list: "zones", id: zonesOf(both)[0]!.id });
    expect(new Set(zonesOf(mirrored).map(({ id }) => id)).size).toBe(3);
  });
});

describe("a row of holes", () => {
  const rack = [200, 225, 250].map((z) => [600, 450, z] as const);
  const holes = rack as unknown as Parameters<typeof nextHole>[0];
  const way = (x: number, y: number, z: number) => [x, y, z] as unknown as Parameters<typeof nextHole>[2];

  it("is known by its mount, and catches it", () => {
    const region = { kind: "holes", at: rack } as unknown as Parameters<typeof withZone>[3];
    const document = withZone(tender, "Rack", ["upper-left.frame"], region);
    expect(holesOf(document, { name: "upper-left.frame", was: null })).toEqual(rack);
    expect(holesOf(document, { name: "lower-left.frame", was: null })).toEqual([]);
    expect(nearestHole(holes, way(610, 440, 240))).toEqual([600, 450, 250]);
  });

  it("is walked hole by hole, and ends", () => {
    expect(nextHole(holes, way(600, 450, 200), way(0, 0, 1))).toEqual([600, 450, 225]);
    expect(nextHole(holes, way(600, 450, 250), way(0, 0, 1))).toBeNull();
    expect(nextHole(holes, way(600, 450, 225), way(1, 0, 0))).toBeNull();
  });
});

describe("measures typed", () => {
  const prism = roomyTender.room!.keep_outs[0]!.solid;

  it.each([BOX, prism, roomyTender.room!.keep_outs[5]!.solid])(
    "are as they were where nothing is: %#",
    (solid) => expect(shapeTyped(solid as never, {}, "in16")).toEqual(solid),
  );

  it("take what is typed and leave the rest exactly", () => {
    expect(shapeTyped(BOX as never, { "3": "16" }, "in16")).toMatchObject({
      center: [500, -20, 800],
      size: [406.4, 300, 200],
    });
    expect(shapeTyped(BOX as never, { turn2: "−7.5" }, "mm")).toMatchObject({ turn: [0, 0, -7.5] });
    expect(shapeTyped(prism, { from: "10", points: "1, 2\n3, 2\n3, 9" }, "mm")).toMatchObject({
      from: 10,
      outline: [[1, 2], [3, 2], [3, 9]],
    }); // prettier-ignore
  });

  it.each([
    [BOX, { "5": "high" }, "High: Type a length"],
    [BOX, { turn0: "a bit" }, "in degrees"],
    [prism, { points: "1" }, "Line 1"],
  ] as const)("that can't be read are refused in words", (solid, texts, words) =>
    expect(shapeTyped(solid as never, texts, "mm")).toContain(words),
  );

  it("of a hull of many points are not typed", () => {
    const points = Array.from({ length: 99 }, (_, n) => [n, n * n, 0]);
    expect(fieldsOf({ kind: "hull", points } as never, "mm")).toEqual([]);
  });
});

describe("the editor", () => {
  const edit = async (document: Document, which: Which) => {
    open(document);
    const show = () => <Editor document={now()} which={which} one={found(now(), which)!} units="mm" />;
    ({ leave } = await shown(show()));
  };
  const field = (key: string) => find<HTMLInputElement>(`[data-size="${key}"]`);
  const take = async () => {
    act(() => find<HTMLFormElement>("form").requestSubmit());
    await settle();
  };

  it("takes what the reader takes, as one step", async () => {
    await edit(withTank, TANK);
    await type(field("name"), "Water tank");
    await type(field("2"), "820");
    await type(field("gap"), "30");
    await take();
    expect(found(now(), TANK)).toMatchObject({ name: "Water tank", gap: 30, solid: { center: [500, -20, 820] } }); // prettier-ignore
    act(() => useDesign.getState().undo());
    expect(found(now(), TANK)).toMatchObject({ name: "Fuel tank", gap: 25 });
  });

  it("says what the reader refuses, at its place, with nothing lost", async () => {
    await edit(withTank, TANK);
    gaps = refused("room.keep_outs.0.solid: must be more than 0");
    await type(field("3"), "0");
    await take();
    expect(said()).toContain("must be more than 0");
    expect(field("3").value).toBe("0");
    expect(found(now(), TANK)).toMatchObject({ solid: { size: [400, 300, 200] } });
    await type(field("gap"), "-4");
    await take();
    expect(said()).toContain("not below nothing");
  });

  it("leaves it out, and adds its mirror image", async () => {
    await edit(withTank, TANK);
    await press("Add its mirror image");
    expect(keepOutsOf(now()).map(({ name }) => name)).toEqual(["Fuel tank", "Fuel tank, other side"]);
    await press("Leave it out");
    expect(keepOutsOf(now()).map(({ name }) => name)).toEqual(["Fuel tank, other side"]);
  });

  it("lists what is bolted to it, and lets it go", async () => {
    const bolted = withChanged(withTank, TANK, { except: ["upper-left"] });
    await edit(bolted, TANK);
    await press("Leave out Upper left");
    expect(found(now(), TANK)).toMatchObject({ except: [] });
  });
});

describe("the lists", () => {
  it("teach what they are for, and choose", async () => {
    open(tender);
    ({ leave } = await shown(<Ways document={tender} units="mm" />));
    expect(said()).toContain("Nothing is said yet.");
    leave();
    open(withTank);
    ({ leave } = await shown(<Ways document={withTank} units="mm" />));
    act(() => find<HTMLButtonElement>('[aria-label="Keep-outs"] button').click());
    expect(useRoom.getState().chosen).toEqual(TANK);
  });

  it("of zones ranks the places that exist for the chosen mount", async () => {
    const place = (z: number, fixes: number, far: number) => ({
      at: { "upper-left.frame": [690, 310, z] }, stops: 0, fixes, considers: 1, findings: ["swing"], far,
    }); // prettier-ignore
    open(roomyTender, { "POST /api/places": () => ok([place(640, 0, 30), place(631.825, 1, 0)]) });
    const key = "links.2.frame.at";
    useSelection.setState({ chosen: [key] });
    ({ leave } = await shown(<Zones document={roomyTender} units="mm" />));
    expect(said()).toContain("Inside the rail, left");
    await press("Rank the places there are");
    await settle();
    expect(lastOf(asked, "POST /api/places")["mount"]).toBe("upper-left.frame");
    expect(said()).toContain("8 mm up, 109 mm inward, 85 mm back");
    expect(said()).toContain("Where it stands: 1 fix, 1 to consider");
  });

  it("of zones say so where no place can be built", async () => {
    open(roomyTender, { "POST /api/places": () => ok([]) });
    useSelection.setState({ chosen: ["links.2.frame.at"] });
    ({ leave } = await shown(<Zones document={roomyTender} units="mm" />));
    await press("Rank the places there are");
    await settle();
    expect(said()).toContain("None of its places can be built");
  });

  it("says what a place asks for", () => {
    const none = { at: {}, stops: 0, fixes: 0, considers: 0, findings: [], far: 0 };
    expect(asksFor(none)).toBe("nothing asked for");
    expect(asksFor({ ...none, stops: 2, findings: ["rear steer"] })).toBe("2 stops: rear steer");
  });
});

describe("the sums", () => {
  const end = (way: string, limits: object[], margin: number | null) => ({
    way, unit: "mm", asked: 100, looked: 200, limits, margin,
  }); // prettier-ignore
  const meets = { why: "meets", at: 80, a: "upper-left", b: "fuel-tank" };
  const answer = {
    budget: { up_share: 0.3, ends: [end("bump", [meets, { ...meets, at: 81, a: "upper-right" }, { why: "links", at: 90, a: "", b: "" }], -20), end("droop", [], null)] },
    up_share: { low: 0.35, high: 0.55, why: "Both are asked for." },
    tires: [{ tire: "tire-right", low: [-480, -1000, -300], high: [490, -680, 1100], nearest: { a: "tire-right", b: "fuel-tank", gap: 10, wanted: 25 } }],
    stations: [{ by: -50, wheelbase: 2700, tire: null, least: { a: "upper-left", b: "fuel-tank", gap: 0, wanted: 25 }, shaft_length: 1030, shaft_longer: 30 }],
    tubes: [{ side: "left", inner: 135, outer: 680, taken: 76, spare: 469, brackets: [{ mounts: ["lower-left.axle"], out: 150, over: 23, what: "housing" }] }],
    under: { low: [{ name: "upper-left.frame bracket", ride: 500, bump: -20 }], breakover: 31, breakover_by: "fuel-tank", departure: null, departure_by: "" },
    unknown: [{ zone: "Rack", mount: "nobody.frame" }],
  }; // prettier-ignore

  beforeEach(() => open(withTank, { "POST /api/room": () => ok(answer) }));

  it("say what ends each way, and what does not fit", async () => {
    ({ leave } = await shown(<Sums document={withTank} units="mm" />));
    expect(said()).toContain("Working the room out");
    await settle();
    const text = said();
    expect(text).toContain("upper left and fuel tank meet at 80 mm; then a link runs out at 90 mm");
    expect(text).toContain("20 mm short");
    expect(text).toContain("nothing up to 200 mm");
    expect(text).toContain(
      "30 % of the travel is up. House value for this use: 35 to 55 %; less is up here.",
    );
    expect(text).toContain("680 to 1000");
    expect(text).toContain("fuel tank: 10 mm of 25 mm");
    expect(text).toContain("30 mm longer");
    expect(text).toContain("lower left: over the housing by 23 mm");
    expect(text).toContain("Upper left bracket (frame)");
    expect(text).toContain("Breakover 31°, by the fuel tank.");
    expect(text).toContain("The zone Rack is for nobody.frame, which is not there");
  });

  it("are worked out anew for another bracket", async () => {
    ({ leave } = await shown(<Sums document={withTank} units="mm" />));
    await settle();
    const wide = find<HTMLInputElement>('section[aria-label="Bare tube for brackets"] input');
    await type(wide, "90");
    act(() => wide.blur());
    await settle();
    expect(lastOf(asked, "POST /api/room")["bracket"]).toBe(90);
  });

  it("name a limit in words", () =>
    expect(limitWords(withTank, { why: "corner", at: 90, a: "bump-left", b: "" })).toBe(
      "bump left is at its end",
    ));
});
