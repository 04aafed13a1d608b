import { act } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import truckFile from "../../../../server/builds/demo/fell-tender-truck.json";
import { type Document, placed, type Spot, spotsOf, withJoint } from "../../document/document";
import { useBehind, clearBehind } from "../../state/behind";
import { useDesign } from "../../state/design";
import { usePreferences } from "../../state/preferences";
import { forgetAnswers } from "../../state/placing";
import { useSaid } from "../../state/said";
import { clearSelection, useSelection } from "../../state/selection";
import { type Truck, useTruck } from "../../state/truck";
import { usePulling } from "../../state/pulling";
import { useSolver } from "../../state/solver";
import { button, clear, find, key, press, said, settle, shown, submit, type } from "../../testing/screen";
import { type Asked, ok, refused, serve } from "../../testing/server";
import { finding, solvedTender, tender } from "../../testing/solved";
import { useConverging } from "./ConvergePane";
import { Joint } from "./Joint";
import { AtRide, MountSheet } from "./MountSheet";
import { Pane } from "./Pane";

const truck: Truck = {
  build: 3, number: 1, stored_at: "2026-11-24T00:00:00Z", document: truckFile as unknown as Truck["document"],
  overlays: { rear: {}, front: {} },
}; // prettier-ignore
const revision = {
  design: 7, build: 3, build_name: "Fell tender", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z",
  document: tender,
}; // prettier-ignore
const SAVE = "POST /api/designs/7/revisions";
const stores = (body: Record<string, unknown>) => ok({ ...revision, number: 5, document: body["document"] });
const mount = (name: string, document: Document = tender): Spot =>
  spotsOf(document).find((m) => m.name === name)!;
const now = (name: string) => mount(name, useDesign.getState().document!).at;
const calm = () => settle();

beforeEach(async () => {
  serve({}); // what the design's coming asks for is answered before anything is shown
  localStorage.clear();
  clearSelection();
  clearBehind();
  usePreferences.setState({ units: "in16", theme: "light" });
  usePulling.setState({ of: [], short: null, trouble: null, offered: null });
  useTruck.setState({ truck, since: null, trouble: null });
  useDesign.setState({
    stored: revision, document: tender, draft: null, pending: null, past: [], future: [], sync: { state: "stored" },
  }); // prettier-ignore
  await settle();
});
afterEach(async () => {
  await settle();
  clear();
  vi.unstubAllGlobals();
});

describe("the chosen mount", () => {
  const sheet = (selected: Spot | null, document: Document = tender) =>
    shown(
      <MountSheet document={document} solved={solvedTender()} units="in16" selected={selected} others={0} onSelect={() => undefined} onOpen={() => undefined} />,
    ); // prettier-ignore
  const field = (axis: string) => find<HTMLInputElement>(`input[data-axis="${axis}"]`);
  beforeEach(() => {
    forgetAnswers();
    useSaid.getState().read();
  });

  it("stands as a shop measures it, and teaches while none is chosen", async () => {
    serve({});
    await sheet(null);
    expect(said()).toContain("Take hold of a joint");
    clear();
    await sheet(mount("upper-right.frame"));
    expect(field("z").value).toBe("24 7/8 in");
    expect(field("y").value).toBe("16 1/2 in");
    expect(said()).toContain("Out to the right");
  });

  it("goes where it is typed: a place, a sum, a little more", async () => {
    serve({ [SAVE]: stores });
    await sheet(mount("upper-left.frame"));
    for (const [text, z] of [["25", 635], ["+1/8", 635], ["-⅛", 628.65], ["24 + 1 1/2", 647.7]] as const) {
      await type(field("z"), text);
      await key(field("z"), "Enter");
      expect(now("upper-left.frame")[2]).toBeCloseTo(z, 6);
      expect(now("upper-right.frame")[2]).toBeCloseTo(z, 6);
    } // prettier-ignore
    await type(field("x"), "3 behind");
    expect(said()).toContain("= 3 in behind");
    await key(field("x"), "Enter");
    expect(now("upper-left.frame")[0]).toBeCloseTo(-76.2, 6);
  });

  it("asks once what a right-hand figure that differs means, and goes by the answer from then on", async () => {
    serve({ [SAVE]: stores });
    await sheet(mount("upper-right.frame"));
    await type(field("z"), "25");
    await key(field("z"), "Enter");
    expect(now("upper-right.frame")[2]).not.toBeCloseTo(635, 6);
    await press("Part them: only the right");
    expect(now("upper-right.frame")[2]).toBeCloseTo(635, 6);
    expect(now("upper-left.frame")).toEqual(mount("upper-left.frame").at);
    clear();
    const parted = useDesign.getState().document!;
    await sheet(
      spotsOf(parted).find((m) => m.name === "upper-right.frame")!,
      parted,
    );
    expect(said()).toContain("Parted: each side moves alone");
    await press("As left");
    expect(useDesign.getState().document!.unpaired).toEqual([]);
    expect(now("upper-right.frame")[2]).toBeCloseTo(mount("upper-left.frame").at[2], 6);
  });

  it("asks before it puts a mount below the floor or far off the truck", async () => {
    serve({ [SAVE]: stores });
    await sheet(mount("upper-left.frame"));
    await type(field("z"), "-50");
    await key(field("z"), "Enter");
    expect(said()).toContain("below the floor");
    await press("Leave it");
    expect(now("upper-left.frame")).toEqual(mount("upper-left.frame").at);
    await type(field("x"), "400");
    await key(field("x"), "Enter");
    expect(said()).toContain("far off the truck");
    await press("Put it there");
    expect(now("upper-left.frame")[0]).toBeCloseTo(400 * 25.4, 6);
  });

  it("takes what stands typed when another mount is chosen, or says why not", async () => {
    serve({ [SAVE]: stores });
    await sheet(mount("upper-left.frame"));
    await type(field("z"), "25");
    act(() => useSelection.getState().choose("lower"));
    expect(now("upper-left.frame")[2]).toBeCloseTo(635, 6);
    await type(field("z"), "25 ells");
    act(() => useSelection.getState().choose("lower"));
    expect(useSaid.getState().said!.words).toMatch(
      /“25 ells” for Upper left, frame end.*“ells” is not a unit/,
    );
    await type(field("z"), "-90");
    act(() => useSelection.getState().choose("lower"));
    expect(useSaid.getState().said!.words).toContain("below the floor");
    const [offer, ...more] = useSaid.getState().said!.offers;
    expect([offer!.words, more]).toEqual(["Put it there", []]);
    // what was edited before it is answered stands
    act(() => useDesign.getState().edit({ ...useDesign.getState().document!, name: "Edited meanwhile" }));
    act(() => offer!.act());
    expect(useDesign.getState().document!.name).toBe("Edited meanwhile");
    expect(now("upper-left.frame")[2]).toBeLessThan(0);
  });

  it("refuses what it can't read where it was typed, and lets go by Escape", async () => {
    serve({});
    await sheet(mount("upper-left.frame"));
    await type(field("z"), "a bit higher");
    await key(field("z"), "Enter");
    expect(said()).toContain("It stays at 24 7/8 in");
    await key(field("z"), "Escape");
    expect(field("z").value).toBe("24 7/8 in");
    expect(now("upper-left.frame")).toEqual(mount("upper-left.frame").at);
  });

  it("shows what was understood of a sum", async () => {
    serve({});
    await sheet(mount("upper-left.frame"));
    await type(field("z"), "43 1/2 * 0.75 - 1");
    expect(said()).toContain("= 31 5/8 in");
  });

  it("is locked and parted in the design", async () => {
    serve({ [SAVE]: stores });
    await sheet(mount("upper-left.frame"));
    await press("Lock: off the floor");
    expect(useDesign.getState().document!.locks).toEqual({
      "upper-left.frame": "z",
      "upper-right.frame": "z",
    });
    await press("Left and right together");
    expect(useDesign.getState().document!.unpaired).toEqual(["upper-left.frame", "upper-right.frame"]);
  });
});

async function pane(findings = [finding("bind")], document: Document = tender) {
  const solved = { ...solvedTender(findings), document };
  useSolver.setState({ solved, refusal: null, lost: false });
  return shown(<Pane document={document} solved={solved} units="in16" />);
}

const high = finding("roll_center", {
  value: 660, unit: "mm", high: 622.3, low: 355.6, verdict: "high", severity: "fix", title: "Roll center height",
  message: "It jacks.", disagrees: "Crawlers.",
}); // prettier-ignore

describe("a finding", () => {
  const down = (y: number): [number, number, number] => [28.575, y, 625.475];
  const lowered = placed(tender, { "upper-left.axle": down(101.6), "upper-right.axle": down(-101.6) });
  const cure = {
    words: "Upper link axle ends down 1 in", price: "", meets: true, document: lowered,
    shifts: [{ axis: "z", mounts: ["upper-left.axle", "upper-right.axle"], by: -25.4 }], at: {},
    figures: { roll_center: 621.4 }, cures: ["roll_center", "swing"], worse: [],
    worsens: [{ figure: "anti_squat", before: 65, after: 61 }],
  }; // prettier-ignore

  it("on what nobody has said looks for no cure, and says where it is put in", async () => {
    const asked = serve({ "POST /api/cures": () => ok([cure]) });
    useSelection.getState().find("load_unknown");
    await pane([finding("load_unknown", { severity: "consider", title: "Strength that is not known" })]);
    await calm();
    expect(said()).toContain("a bolt at Cut sheet, Bolts");
    expect(asked.some((one) => one.line === "POST /api/cures")).toBe(false);
  });

  it("says its band, why, who would disagree, and the cures with what they cost", async () => {
    const asked = serve({ "POST /api/cures": () => ok([cure]) });
    useSelection.getState().find("roll_center");
    await pane([high]);
    await calm();
    const body = asked.find((one) => one.line === "POST /api/cures")!.body;
    expect(body).toMatchObject({ finding: "roll_center", increment: 3.175, units: "in16" });
    for (const words of [
      "14 in to 24 1/2 in",
      "It jacks.",
      "Crawlers.",
      "Upper link axle ends down 1 in",
      "24 7/16 in",
    ])
      expect(said()).toContain(words);
    expect(said()).toContain("Also better: link swing");
    expect(said()).toContain("Worse: anti-squat 65 % to 61 %");
  });

  it("a cure is looked at, dropped, and taken", async () => {
    serve({ "POST /api/cures": () => ok([cure]), [SAVE]: stores });
    useSelection.getState().find("roll_center");
    await pane([high]);
    await calm();
    await press("Look at it");
    expect(useBehind.getState().behind?.document.links).not.toEqual(tender.links);
    await press("Drop it");
    expect(useBehind.getState().behind).toBeNull();
    await press("Look at it");
    await press("Take it");
    expect(now("upper-left.axle")).toEqual([28.575, 101.6, 625.475]);
  });

  it("without a cure says how far was looked; without a server, that", async () => {
    serve({ "POST /api/cures": () => ok([]) });
    useSelection.getState().find("roll_center");
    await pane([high]);
    await calm();
    expect(said()).toContain(
      "Within 7 7/8 in no move of a free mount that can be built and makes nothing meet helps",
    );
    clear();
    serve({ "POST /api/cures": () => "no server" });
    await pane([{ ...high, value: 661 }], { ...tender, name: "Other" });
    await calm();
    expect(said()).toContain("does not answer");
  });

  it("says of what is no move what it costs, and of what only helps that it does not cure", async () => {
    const less = {
      ...cure,
      words: "Ask for less droop travel: 5 in instead of 7 in",
      price: "Straps must hold it.",
    };
    serve({ "POST /api/cures": () => ok([{ ...less, shifts: [], meets: false }]) });
    useSelection.getState().find("roll_center");
    await pane([high]);
    await calm();
    expect(said()).toContain("Helps, does not cure: Ask for less droop travel");
    expect(said()).toContain("Straps must hold it.");
  });

  it("says what it rests on, where that comes from, and how far it may be off", async () => {
    const one = {
      path: "vehicle.cg_height",
      words: "height of the center of gravity",
      unit: "mm",
      value: 905,
    };
    const base = {
      path: "vehicle.wheelbase",
      words: "wheelbase",
      unit: "mm",
      value: 2650,
      tried: [2385, 2915],
    };
    serve({
      "POST /api/cures": () => ok([]),
      "POST /api/slack": () =>
        ok([
          { ...one, low: 653.5, high: null, tried: [543, 1357.5] },
          { ...base, low: null, high: null },
        ]),
    });
    useSelection.getState().find("roll_center");
    await pane([{ ...high, guessed: "No one has said what kind of joints these are." }]);
    await calm();
    expect(said()).toContain(
      "Rests on the height of the center of gravity, 35 5/8 in, guessed: holds from 25 3/4 in up",
    );
    expect(said()).toContain("holds from 93 7/8 in to 114 3/4 in, and was tried no farther");
    expect(said()).toContain("No one has said what kind of joints");
  });

  it("says the whole place where it is worst", async () => {
    serve({ "POST /api/cures": () => ok([]) });
    useSelection.getState().find("joint_angle");
    await pane([
      finding("joint_angle", {
        severity: "good",
        unit: "deg",
        value: 9,
        place: { travel: -127, articulation: 13, parts: [] },
      }),
    ]);
    expect(said()).toContain("Worst at 5 in of droop and 13.0° of articulation, left wheel up.");
  });
});

describe("what is only read", () => {
  it("stands below the links, its meaning a tap away; what does not exist is left out", async () => {
    await shown(<AtRide solved={solvedTender()} units="mm" />);
    expect(said()).toContain("Upper links to lower links0.80 ×");
    expect(said()).not.toContain("against the center of gravity");
    await press("Upper links to lower links");
    expect(said()).toContain("Mean length of the uppers over that of the lowers.");
  });
});

describe("the school", () => {
  it("says what it comes to here, from this design's own curves", async () => {
    serve({ "POST /api/school": () => ok({ says: "Here: pinion change 5.9 degrees." }) });
    await pane([high]);
    await calm();
    expect(said()).toContain("Here: pinion change 5.9 degrees.");
  });
});

describe("a joint", () => {
  const sheet = (document: Document) => {
    const selected = spotsOf(document).find((m) => m.name === "upper-left.frame")!;
    return shown(<Joint document={document} mount={selected} units="mm" />);
  };
  const jointed = (entry: string | null) =>
    withJoint(
      tender,
      spotsOf(tender).find((m) => m.name === "upper-left.frame")!,
      entry,
    );

  it("says how far it turns and gives, and takes a maker's figures for the whole design", async () => {
    const document = jointed("bushed");
    expect((document.links[3]!.frame as { joint?: string }).joint).toBe("bushed"); // its mirror image has it too
    useDesign.setState({ document });
    serve({ [SAVE]: stores });
    await sheet(document);
    expect(said()).toContain("turns 12.0°, gives 2 mm");
    await press("Check: maker’s figures");
    const fields = () => [...window.document.querySelectorAll<HTMLInputElement>("form input")];
    await type(fields()[0]!, "120");
    await press("Set for this design");
    expect(said()).toContain("between 0 and 90 degrees");
    await type(fields()[0]!, "18");
    await type(fields()[1]!, "3 mm");
    await press("Set for this design");
    expect(useDesign.getState().document!.joints).toEqual({
      bushed: { name: "Rubber bushed end", limit: 18, give: 3 },
    });
    await sheet(useDesign.getState().document!);
    await press("Check: maker’s figures");
    await type(fields()[2]!, "strong");
    await press("Set for this design");
    expect(said()).toContain("Type a number");
    await type(fields()[2]!, "4500 lb");
    await press("Set for this design");
    expect(useDesign.getState().document!.joints!.bushed!.rating).toBeCloseTo(20016.997, 2);
    await sheet(useDesign.getState().document!);
    expect(said()).toContain("carries 20017 N");
    await press("Check: maker’s figures");
    await type(fields()[2]!, "");
    await press("Set for this design");
    expect(useDesign.getState().document!.joints!.bushed).not.toHaveProperty("rating");
  });

  it("of no catalog is shown as that; without one nothing is claimed", async () => {
    await sheet(jointed("handmade"));
    expect(said()).toContain("handmade, in no catalog");
    clear();
    await sheet(jointed(null));
    expect(said()).not.toContain("turns");
  });
});

describe("all findings at once", () => {
  const settled = {
    at: { "upper-left.frame": [774.7, 419.1, 640], "upper-right.frame": [774.7, -419.1, 640] },
    figures: {}, cures: ["roll_center"], worse: [], left: [], weak: ["Lower left link: its tube yields, braking"],
  }; // prettier-ignore

  it("are answered by several moves, said before they are taken", async () => {
    serve({ "POST /api/settle": () => ok(settled), [SAVE]: stores });
    await pane([high]);
    await press("Move several a little");
    await settle();
    expect(said()).toContain("2 mounts move, none by more than 5/16 in. Better: roll center height.");
    expect(said()).toContain("Then wants stronger steel: Lower left link: its tube yields, braking.");
    await press("Take it");
    expect(now("upper-right.frame")[2]).toBe(640);
  });

  it("or not at all, in words", async () => {
    serve({ "POST /api/settle": () => ok(null) });
    await pane([high]);
    await press("Move several a little");
    await settle();
    expect(said()).toContain("No movement of the mounts that are free makes it better");
  });

  it("or refused, or without a server", async () => {
    serve({ "POST /api/settle": () => refused("links[0]: no length") });
    await pane([high]);
    await press("Move several a little");
    await settle();
    expect(said()).toContain("no length");
  });

  it("lead to the one that is chosen", async () => {
    serve({ "POST /api/cures": () => ok([]) });
    await pane([high]);
    act(() => find('[data-finding="roll_center"]').click());
    await settle();
    expect(useSelection.getState().finding).toBe("roll_center");
    expect(said()).toContain("It jacks.");
    await press("All findings");
    expect(useSelection.getState().finding).toBeNull();
  });
});

describe("a reading", () => {
  const effects = {
    roll_center: [
      { axis: "z", mounts: ["upper-left.axle", "upper-right.axle"], change: 4.2 },
      { axis: "x", mounts: ["lower-left.axle"], change: 0 },
    ],
  };
  const open = async (more: Parameters<typeof serve>[0] = {}): Promise<Asked[]> => {
    const asked = serve({ "POST /api/effects": () => ok(effects), ...more });
    useSelection.getState().read("roll_center");
    await pane([high]);
    await calm();
    return asked;
  };
  const entry = (label: string) =>
    [...document.querySelectorAll("label")]
      .find((l) => l.textContent.startsWith(label))!
      .querySelector("input")!;

  it("says what it is and what moves it, the strongest first", async () => {
    await open();
    expect(said()).toContain("The height at which the links hold the axle sideways");
    expect(said()).toContain("upper axle ends up+0.17 in");
    expect(said()).not.toContain("lower left axle end");
  });

  it("is wanted otherwise, and the free mounts follow", async () => {
    const at = { "upper-left.axle": [28.575, 101.6, 640], "upper-right.axle": [28.575, -101.6, 640] };
    const asked = await open({
      "POST /api/pull": () => ok({ at, got: [640], met: true, farthest: 9, free: 12, worse: ["fix: gap"] }),
      [SAVE]: stores,
    });
    await type(entry("Off the ground"), "25 in");
    await submit(find<HTMLFormElement>('form[aria-label="What it should be here"]'));
    await settle();
    const pull = asked.find((a) => a.line === "POST /api/pull")!.body;
    expect(pull).toMatchObject({
      wanted: [{ figure: "roll_center_height", value: 635 }],
      within: 150,
      increment: 25.4 / 8,
    });
    expect(now("upper-left.axle")[2]).not.toBe(640);
    expect(said()).toContain("upper axle ends");
    expect(said()).toContain("Worse then: fix: gap.");
    await press("Take it");
    expect(now("upper-left.axle")[2]).toBe(640);
  });

  it("that can't be reached says the nearest, or what stands in the way; nonsense is refused", async () => {
    let stops: string[] = [];
    await open({
      "POST /api/pull": () =>
        ok({ at: {}, got: [650], met: false, farthest: 150, free: 12, stops, worse: [] }),
      [SAVE]: stores,
    });
    await type(entry("Off the ground"), "somewhere");
    await submit(find<HTMLFormElement>('form[aria-label="What it should be here"]'));
    expect(said()).toContain("Type a length");
    await type(entry("Off the ground"), "99 in");
    await submit(find<HTMLFormElement>('form[aria-label="What it should be here"]'));
    await settle();
    expect(said()).toContain("Not within 5 7/8 in of movement that can be built; the nearest is 25 9/16 in.");
    stops = ["bind"];
    await type(entry("Off the ground"), "98 in");
    await submit(find<HTMLFormElement>('form[aria-label="What it should be here"]'));
    await settle();
    expect(said()).toContain("It goes only as far as 25 9/16 in: farther would make a stop of give needed.");
  });

  it("has a band, set for the truck and let go", async () => {
    const saves = (body: Record<string, unknown>) => ok({ ...truck, number: 2, document: body["document"] });
    const asked = await open({ "POST /api/builds/3/truck/revisions": saves });
    await press("Set another band");
    await type(entry("At least"), "30");
    await submit(find<HTMLFormElement>('form[aria-label="Band for this truck"]'));
    expect(said()).toContain("The low end is above the high end");
    await type(entry("At least"), "");
    await type(entry("At most"), "28");
    await submit(find<HTMLFormElement>('form[aria-label="Band for this truck"]'));
    await settle();
    const stored = () => asked.filter((a) => a.line.endsWith("/truck/revisions")).at(-1)!.body["document"];
    expect((stored() as Truck["document"]).bands).toEqual({
      roll_center: [null, 28 * 25.4],
    });
    await press("House value again");
    await settle();
    expect((stored() as Truck["document"]).bands).toEqual({});
  });
});

describe("what it is built for", () => {
  it("belongs to the truck, the school to the axle", async () => {
    serve({ [SAVE]: stores });
    await pane();
    expect(said()).toContain("Trail and touring");
    expect(said()).toContain("Numbers first");
  });
});

describe("converging on a point", () => {
  const holes = [
    { link: "upper-left", at: [774.7, 419.1, 600], length: 812.8 },
    { link: "upper-right", at: [774.7, -419.1, 600], length: 812.8 },
  ];
  it("finds holes, draws them behind, and takes them", async () => {
    const asked = serve({ "POST /api/converge": () => ok(holes), [SAVE]: stores });
    useSelection.getState().converge(true);
    await pane();
    await submit(find<HTMLFormElement>('form[aria-label="Converge on a point"]'));
    await settle();
    expect(asked.find((a) => a.line === "POST /api/converge")!.body).toMatchObject({ kind: "upper" });
    expect(said()).toContain("32 in");
    expect(useConverging.getState().station).not.toBeNull();
    expect(useBehind.getState().behind?.name).toBe("the holes found");
    await press("Take them");
    expect(now("upper-left.frame")[2]).toBe(600);
    expect(useConverging.getState().point).toBeNull();
  });

  it("says why there are none", async () => {
    serve({ "POST /api/converge": () => refused("point: choose one ahead of it") });
    useSelection.getState().converge(true);
    await pane();
    await submit(find<HTMLFormElement>('form[aria-label="Converge on a point"]'));
    await settle();
    expect(said()).toContain("choose one ahead");
    expect(button("Find the holes")).toBeTruthy();
  });
});
