import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import truckFile from "../../../server/builds/demo/fell-tender-truck.json";
import { readTruck, showTruck } from "../figures/truck";
import { type Asked, ok, refused, serve } from "../testing/server";
import { tender } from "../testing/solved";
import { later } from "../solve/latest";
import { useDesign } from "./design";
import { keepHere } from "./keep";
import { forgetOutbox, useOutbox } from "./outbox";
import { overlaps } from "./steps";
import { setBand, type Truck, useTruck } from "./truck";
import { sourceOf, withFigure, withSource } from "../panels/TruckFigures";

const document = { targets: {}, ...truckFile, fit_up: null } as unknown as Truck["document"];
const truck = (number: number, change: Partial<Truck["document"]> = {}, mass = 3100): Truck => ({
  build: 3, number, stored_at: "2026-11-24T00:00:00Z",
  document: { ...document, ...change, vehicle: { ...document.vehicle, mass } },
  overlays: { rear: { "vehicle.mass": mass, bands: change.bands ?? {} }, front: {} },
}); // prettier-ignore
const stored = (on: number, newest: number) => ({
  design: 7, build: 3, build_name: "Fell tender", number: 1, truck: newest, stored_on: on,
  stored_at: "2026-11-24T00:00:00Z", document: tender,
}); // prettier-ignore
const SAVE = "POST /api/builds/3/truck/revisions";
const GET = "GET /api/builds/3/truck";
const SINCE = "GET /api/designs/7/since";
const settled = () => later(10);

beforeEach(() => {
  localStorage.clear();
  forgetOutbox(keepHere());
  useTruck.setState({ truck: null, since: null, trouble: null });
  useDesign.setState({
    stored: null,
    document: null,
    draft: null,
    pending: null,
    past: [],
    future: [],
    newestTruck: 0,
  });
});
afterEach(() => vi.unstubAllGlobals());

async function opened(newest = truck(1), on = 1, more: Parameters<typeof serve>[0] = {}): Promise<Asked[]> {
  const asked = serve({
    [GET]: () => ok(newest),
    "GET /api/designs/7": () => ok(stored(on, newest.number)),
    ...more,
  });
  await useDesign.getState().open(7);
  await settled();
  return asked;
}

describe("the truck under the open design", () => {
  it("is fetched with the design, and nothing is said of it while nothing changed", async () => {
    const asked = await opened();
    expect(useTruck.getState().truck?.number).toBe(1);
    expect(useTruck.getState().since).toBeNull();
    expect(asked.map((a) => a.line)).not.toContain(SINCE);
  });

  it("that is newer than the one a design was stored on is asked about", async () => {
    const change = { path: "vehicle.mass", words: "mass", unit: "kg", truck: 3100, file: 3500 };
    await opened(truck(2, {}, 3500), 1, { [SINCE]: () => ok({ changes: [change], figures: [] }) });
    expect(useTruck.getState().since?.changes).toEqual([change]);
    useTruck.getState().readSince();
    expect(useTruck.getState().since).toBeNull();
  });

  it("once edited, carries the design with it, and no step of undo is made of it", async () => {
    await opened(truck(1), 1, {
      [SAVE]: (body) => ok({ ...truck(2, {}, 3500), document: body["document"] }),
    });
    expect(await useTruck.getState().edit(withFigure(document, "vehicle.mass", 3500))).toBe(true);
    expect(useDesign.getState().document!.vehicle.mass).toBe(3500);
    expect(useDesign.getState().stored!.truck).toBe(2);
    expect(useDesign.getState().past).toEqual([]);
  });

  it("that another tablet changed elsewhere keeps both changes", async () => {
    const theirs = truck(2, { bands: { swing: [null, 15] } });
    let tries = 0;
    const asked = await opened(truck(1), 1, {
      [SAVE]: (body) =>
        tries++ === 0
          ? { status: 409, body: { message: "newer", newest: theirs } }
          : ok({ ...truck(3), document: body["document"] }),
    });
    expect(await useTruck.getState().edit({ ...document, use: "crawling" })).toBe(true);
    const last = asked.filter((a) => a.line === SAVE).at(-1)!.body as {
      base: number;
      document: Truck["document"];
    };
    expect(last.base).toBe(2);
    expect(last.document).toMatchObject({ use: "crawling", bands: { swing: [null, 15] } });
  });

  it("that two tablets took the first readings of a fit-up on keeps both", async () => {
    const reading = (id: string) => ({ id, kind: "height" as const, of: "upper-left.frame", value: 600, unit: "mm" as const, left_out: false }); // prettier-ignore
    const log = (...readings: ReturnType<typeof reading>[]) => ({
      rear: { notes: "", readings, stood: [], gates: [], drives: [], orders: [] },
    });
    const theirs = truck(2, { fit_up: log(reading("r1-abc")) });
    let tries = 0;
    const asked = await opened(truck(1), 1, {
      [SAVE]: (body) =>
        tries++ === 0
          ? { status: 409, body: { message: "newer", newest: theirs } }
          : ok({ ...truck(3), document: body["document"] }),
    });
    expect(await useTruck.getState().edit({ ...document, fit_up: log(reading("r1-xyz")) })).toBe(true);
    const last = asked.filter((a) => a.line === SAVE).at(-1)!.body as { document: Truck["document"] };
    expect(last.document.fit_up!["rear"]!.readings.map(({ id }) => id)).toEqual(["r1-abc", "r1-xyz"]);
  });

  it("whose very figure another tablet changed stands as theirs, and says so", async () => {
    const theirs = truck(2, {}, 2900);
    await opened(truck(1), 1, {
      [SAVE]: () => ({ status: 409, body: { message: "newer", newest: theirs } }),
    });
    expect(await useTruck.getState().edit(withFigure(document, "vehicle.mass", 3500))).toBe(false);
    expect(useTruck.getState().trouble).toContain("theirs stands");
    expect(useTruck.getState().truck!.document.vehicle.mass).toBe(2900);
  });

  it("refused, or without a server, stays as it was and says why", async () => {
    await opened(truck(1), 1, { [SAVE]: () => refused("vehicle.mass: must be more than 0") });
    expect(await useTruck.getState().edit(withFigure(document, "vehicle.mass", -1))).toBe(false);
    expect(useTruck.getState().trouble).toContain("more than 0");
    expect(useTruck.getState().truck!.document.vehicle.mass).toBe(3100);
  });

  it("without a server is held on this device, and stored when it is back", async () => {
    await opened(truck(1), 1, { [SAVE]: () => "no server" });
    expect(await useTruck.getState().edit(withFigure(document, "vehicle.mass", 3500))).toBe(true);
    expect(await useTruck.getState().edit(withFigure(useTruck.getState().truck!.document, "vehicle.cg_height", 700))).toBe(true); // prettier-ignore
    expect(useTruck.getState().truck!.document.vehicle).toMatchObject({ mass: 3500, cg_height: 700 });
    expect(useOutbox.getState().waiting).toHaveLength(2);
    // somebody else changed another figure meanwhile: theirs and both of these stand
    let newest = truck(2, { name: "Theirs" }, 3100);
    const asked = serve({
      [GET]: () => ok(newest),
      [SAVE]: ({ base, document }) => {
        if (base !== newest.number) return { status: 409, body: { message: "newer", newest } };
        newest = { ...newest, number: newest.number + 1, document: document as Truck["document"] };
        return { status: 201, body: newest };
      },
    });
    await vi.waitFor(() => expect(useOutbox.getState().waiting).toEqual([]), { timeout: 30_000 });
    expect(newest.document).toMatchObject({ name: "Theirs", vehicle: { mass: 3500, cg_height: 700 } });
    expect(useTruck.getState().truck!.document).toMatchObject({ name: "Theirs", vehicle: { mass: 3500, cg_height: 700 } }); // prettier-ignore
    expect(asked.length).toBeGreaterThanOrEqual(3);
  });

  it("unchanged, asks nothing", async () => {
    const asked = await opened();
    const before = asked.length;
    expect(await useTruck.getState().edit(document)).toBe(true);
    expect(asked).toHaveLength(before);
  });

  it("that a save of the design speaks of is fetched, and the design put on it", async () => {
    let newest = truck(1);
    await opened(newest, 1, {
      [GET]: () => ok(newest),
      "POST /api/designs/7/revisions": () =>
        ok({ ...stored(1, 2), number: 2, document: { ...tender, name: "x" } }),
    });
    newest = truck(2, {}, 3600);
    useDesign.getState().edit({ ...tender, name: "x" });
    await settled();
    await settled();
    expect(useTruck.getState().truck!.number).toBe(2);
    expect(useDesign.getState().document).toMatchObject({ name: "x", vehicle: { mass: 3600 } });
    expect(useDesign.getState().stored!.truck).toBe(2);
  });
});

describe("bands", () => {
  it("are set and let go one at a time", async () => {
    const asked = await opened(truck(1, { bands: { swing: [null, 20] } }), 1, {
      [SAVE]: (body) => ok({ ...truck(2), document: body["document"] }),
    });
    const sent = () => (asked.at(-1)!.body["document"] as Truck["document"]).bands;
    await setBand("bind", [null, 2]);
    expect(sent()).toEqual({ swing: [null, 20], bind: [null, 2] });
    await setBand("swing", null);
    expect(sent()).toEqual({ bind: [null, 2] });
  });
});

describe("changes of figures", () => {
  it("overlap where one is the other or a part of it", () => {
    const at = (...path: string[]) => [{ path }];
    expect(overlaps(at("vehicle", "mass"), at("vehicle", "mass"))).toBe(true);
    expect(overlaps(at("bands"), at("bands", "swing"))).toBe(true);
    expect(overlaps(at("bands", "swing"), at("bands", "bind"))).toBe(false);
  });

  it("put a value or a source in its place and share the rest", () => {
    const after = withFigure(document, "axles.rear.track", 1700);
    expect(after.axles.rear.track).toBe(1700);
    expect(after.axles.front).toBe(document.axles.front);
    const told = withSource(after, "axles.rear.track", "measured");
    expect(sourceOf(told, "axles.rear.track")).toBe("measured");
    expect(sourceOf(told, "vehicle.brake_front")).toBe("guessed");
    expect(sourceOf({ ...told, sources: { rails: "catalog" } }, "rails.depth")).toBe("catalog");
  });
});

describe("figures of a truck in words", () => {
  it.each([
    [3100, "kg", "mm", "3100 kg"], [3100, "kg", "in16", "6834 lb"], [0.53, "share", "mm", "53.0 %"],
    [905, "mm", "mm", "905 mm"], ["desert", "", "mm", "Fast desert"], [null, "", "mm", "none"], [{}, "", "mm", "none"],
    [{ outside_width: 889 }, "", "in16", "outside width 35 in"], [{ swing: [null, 4] }, "", "mm", "swing"],
  ] as const)("%o %s in %s is %s", (value, unit, units, words) => {
    expect(showTruck(value, unit, units)).toBe(words);
  }); // prettier-ignore

  it.each([
    ["6834", "kg", "in16", 3099.85], ["3100 kg", "kg", "in16", 3100], ["3100", "kg", "mm", 3100], ["53", "share", "mm", 0.53],
    ["53 %", "share", "in16", 0.53], ["35 5/8", "mm", "in16", 904.875],
  ] as const)("%s for %s in %s is %d", (text, unit, units, value) => {
    expect(readTruck(text, unit, units)).toBeCloseTo(value, 2);
  }); // prettier-ignore

  it.each([["a lot", "kg"], ["50 %", "kg"], ["50 kg", "share"], ["", "share"], ["+1/8", "mm"], ["long", "mm"]] as const)(
    "%s for %s is refused in words", (text, unit) => {
      expect(typeof readTruck(text, unit, "in16")).toBe("string");
    },
  ); // prettier-ignore
});
