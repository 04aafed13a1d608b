import { act } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";

import { boltAxis, type Document, type Point, spotsOf, withBoltTurned } from "../../document/document";
import { useDesign } from "../../state/design";
import { useTruck } from "../../state/truck";
import { clear, find, press, said, settle, shown, type } from "../../testing/screen";
import { type Asked, lastOf, ok, refused, serve } from "../../testing/server";
import { tender } from "../../testing/solved";
import { turnedBy, turnedTo } from "./BoltGrip";
import { Found, ontoOf } from "./Found";
import { csvOf, fromCsv } from "./tape";
import { broughtWords } from "./TapeSheet";

const TIRES = { tire_diameter: 900, tire_radius_loaded: 430, tire_width: 300, track: 1700 };
const TEXTS = { tube_diameter: "95", pinion_ahead: "320", pinion_above: "30", pad: "0", pinion_angle: "5.5" };
const bolt = (x: number, y: number, z: number) => [x, y, z] as unknown as Point;

describe("a mount table as a file", () => {
  it.each(["in16", "mm"] as const)("read back says nothing new: %s", (units) =>
    expect(fromCsv(tender, csvOf(tender, units), units)).toEqual({ drafts: {}, unknown: [] }),
  );

  it("brings what differs, in the file's unit whatever the screen's", () => {
    const lines = csvOf(tender, "mm").split("\r\n");
    const upper = lines.findIndex((line) => line.startsWith('"Upper, axle end"'));
    lines[upper] = lines[upper]!.replace(/^("Upper, axle end"),651,/, "$1,660,");
    const read = fromCsv(tender, lines.join("\n"), "in16");
    expect(typeof read === "string" ? read : read.drafts["links.2.axle.at up"]).toBe("660 mm");
  });

  it("takes columns in any order, semicolons, and names rows that are none", () => {
    const read = fromCsv(tender, 'Right up;mount\n17;"Lower, frame end"\n9;nobody\n', "in16");
    expect(read).toMatchObject({ unknown: ["17", "9"] });
    const named = fromCsv(tender, 'mount;Left up\n"Lower, frame end";19\n"No ""such""";9\n', "in16");
    expect(named).toEqual({ drafts: { "links.0.frame.at up": "19" }, unknown: ['No "such"'] });
    expect(broughtWords(named as never)).toBe(
      '1 figure differs: look at them, then take them. No mount here is called “No "such"”.',
    );
  });

  it("without heads is refused in words", () =>
    expect(fromCsv(tender, "1,2,3\n4,5,6", "mm")).toContain("first line must name the columns"));
});

describe("a bolt", () => {
  const upper = spotsOf(tender).find((spot) => spot.name === "upper-left.frame")!;

  it("that nobody said lies level and square to its link", () => {
    const own = boltAxis(tender, upper);
    const link = tender.links[2] as unknown as { axle: { at: number[] }; frame: { at: number[] } };
    const along = link.frame.at.map((v, i) => v - link.axle.at[i]!);
    expect(along[0]! * own[0] + along[1]! * own[1]).toBeCloseTo(0, 6);
    expect(own[2]).toBeCloseTo(0, 9);
    expect(own[1]).toBeGreaterThan(0);
  });

  it("is turned in the view it is dragged in, to half degrees, the rest of it kept", () => {
    const turned = turnedTo(bolt(0, 1, 0), "top", bolt(10.2, 20, 0), 0.5)!;
    expect((Math.atan2(turned[1], turned[0]) * 180) / Math.PI).toBeCloseTo(63, 9);
    expect(turned[2]).toBe(0);
    expect(turnedTo(bolt(0, 1, 0), "side", bolt(1, 0, 1), 0.5)).toBeNull(); // seen end on
    const up = turnedBy(bolt(0, 1, 0), "rear", 10)!;
    expect((Math.atan2(up[2], up[1]) * 180) / Math.PI).toBeCloseTo(10, 9);
  });

  it("takes its mirror image along", () => {
    const next = withBoltTurned(tender, upper, bolt(0.2, 1, 0.1));
    const bolts = next.links.slice(2).map((link) => (link.frame as { bolt?: number[] }).bolt);
    expect(bolts).toEqual([[0.2, 1, 0.1], [-0.2, 1, -0.1]]); // prettier-ignore
  });
});

describe("as found", () => {
  let leave: (() => void) | null = null;
  let asked: Asked[] = [];
  const copied = {
    document: { ...tender, name: "copied" },
    left_over: ["Each wheel stands 10 mm farther out."],
  };

  const open = async (document: Document, answer = ok(copied)) => {
    useTruck.setState({ truck: null, since: null, trouble: null });
    useDesign.setState({
      stored: { design: 7, build: 3, build_name: "", number: 4, truck: 1, stored_on: 1, stored_at: "", document },
      document, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
    }); // prettier-ignore
    asked = serve({
      "POST /api/designs/7/revisions": (body) => ok({ design: 7, build: 3, build_name: "", number: 5, truck: 1, stored_on: 1, stored_at: "", document: body["document"] }),
      "POST /api/copy": () => answer,
      "POST /api/builds/3/designs": () => ok({ design: 9, build: 3 }),
    }); // prettier-ignore
    ({ leave } = await shown(<Found document={document} units="mm" />));
  };
  afterEach(() => {
    leave?.();
    clear();
    vi.unstubAllGlobals();
  });

  it("is a mark that can be set and taken away", async () => {
    await open(tender);
    expect(said()).toContain("before it is stripped");
    await press("As found, before stripping");
    expect(useDesign.getState().document!.as_found).toBe(true);
  });

  it("is copied with what is left over said, then kept as a design", async () => {
    await open({ ...tender, as_found: true });
    await type(find<HTMLInputElement>('[data-onto="pinion_angle"]'), "11");
    act(() => find<HTMLFormElement>("form").requestSubmit());
    await settle();
    expect(said()).toContain("Each wheel stands 10 mm farther out.");
    expect(lastOf(asked, "POST /api/copy")["onto"]).toMatchObject({
      pinion_angle: 11,
      tire_diameter: 939.8,
      pad: 0,
    });
    await press("Keep it as a design");
    await settle();
    expect(lastOf(asked, "POST /api/builds/3/designs")["take"]).toEqual([]);
  });

  it("says what is refused", async () => {
    await open({ ...tender, as_found: true }, refused("track: must be more than 0"));
    act(() => find<HTMLFormElement>("form").requestSubmit());
    await settle();
    expect(said()).toContain("must be more than 0");
  });

  it.each([
    [{ tube_diameter: "0" }, "has a diameter"],
    [{ pinion_above: "high" }, "Pinion’s joint, above its middle"],
    [{ pinion_angle: "up" }, "in degrees"],
  ])("can't be copied onto %o", (more, words) =>
    expect(ontoOf({ ...TEXTS, ...more }, TIRES, "mm")).toContain(words),
  );

  it("is copied onto what was typed", () =>
    expect(ontoOf(TEXTS, TIRES, "mm")).toEqual({
      ...TIRES, tube_diameter: 95, pinion_ahead: 320, pinion_above: 30, pad: 0, pinion_angle: 5.5,
    })); // prettier-ignore
});
