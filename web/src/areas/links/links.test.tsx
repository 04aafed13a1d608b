import { renderToStaticMarkup } from "react-dom/server";
import { describe, expect, it } from "vitest";

import type { Drawn } from "../../floor/drawn";
import { spotsOf } from "../../document/document";
import { type Aim, atRide, projector, type View } from "../../floor/geometry";
import { Dimensions, Guides } from "../../floor/Overlay";
import { Curve, scalesOf } from "../../figures/Curve";
import { readingsOf } from "../../figures/readings";
import type { Behind } from "../../state/behind";
import { finding, solvedTender, tender } from "../../testing/solved";
import { construction, Converging, edged, instantCenter, rollCenter, type Scene } from "./constructions";
import { CurveEnds } from "./CurveEnds";
import { Findings } from "./Findings";
import { PullDots } from "./PullDots";
import { Readings } from "./Readings";

const cell = { width: 600, height: 400 };
const aim: Aim = { middle: [500, 0, 500], scale: 0.2 };
const standing = atRide(444.5);
const scene = (view: View, at: Aim = aim): Scene => ({
  view, solved: solvedTender(), document: tender, standing, cell, to: projector(view, at, cell),
}); // prettier-ignore
const drawn = (asked: Drawn | null, view: View, also: readonly Drawn[] = []) =>
  renderToStaticMarkup(<svg>{construction(asked, also, scene(view))}</svg>);

describe("constructions", () => {
  it("know where the instant center and the roll center are, over the pose's own ground", () => {
    expect(instantCenter(scene("side"))).toEqual([2000, 0, 500]);
    expect(rollCenter(scene("side"))).toEqual([0, 0, 650]);
    const up = scene("side");
    up.solved.travel = 40;
    expect(instantCenter(up)![2]).toBe(540);
  });

  it("draw every link's line to the instant center, in the side view alone", () => {
    const lines = drawn("center", "side").match(/class="dash"/g);
    expect(lines).toHaveLength(4);
    expect(drawn("center", "top")).not.toContain("dash");
  });

  it("draw the 100 % line for anti-squat, and the roll axis with its apexes for the roll center", () => {
    expect(drawn("neutral", "side")).toContain("100 %");
    expect(drawn("axis", "rear")).toContain("roll center");
    expect(drawn("axis", "top")).toContain("apex of the uppers");
    expect(drawn("axis", "top")).toContain("apex of the lowers");
  });

  it("are drawn when wanted, without any reading", () => {
    expect(drawn(null, "side")).toBe("<svg></svg>");
    expect(drawn(null, "top", ["plan"])).toContain("23.1°");
    expect(drawn(null, "side", ["arcs"]).match(/<path/g)).toHaveLength(4);
    expect(drawn(null, "side", ["path"])).toContain("<circle");
  });

  it("are none for an axle that stands nowhere", () => {
    const lost = scene("side");
    lost.solved.answer.here.reached = [false];
    expect(construction("neutral", [], lost)).toBeNull();
  });

  it("put what lies off the sheet to its edge, and say which way it is", () => {
    expect(edged([-500, 100], cell)).toEqual([16, 100]);
    expect(edged([300, 100], cell)).toEqual([300, 100]);
    const far: Aim = { middle: [-3000, 0, 500], scale: 0.2 };
    const said = renderToStaticMarkup(<svg>{construction("neutral", [], scene("side", far))}</svg>);
    expect(said).toContain("◂ instant center");
  });

  it("toward a chosen point draw the links of that kind and the station", () => {
    const said = renderToStaticMarkup(
      <svg>
        <Converging
          view="side"
          document={tender}
          standing={atRide(tender.axle.tire_radius_loaded)}
          point={[1500, 480]}
          station={780}
          kind="upper"
          aim={aim}
          cell={cell}
        />
      </svg>,
    );
    expect(said.match(/class="dash"/g)).toHaveLength(2);
    expect(said).toContain("chosen point");
  });
});

describe("results to take hold of", () => {
  const dots = (reading: Parameters<typeof PullDots>[0]["reading"], view: View) =>
    renderToStaticMarkup(
      <svg>
        <PullDots reading={reading} scene={scene(view)} aim={aim} units="mm" />
      </svg>,
    );
  it("stand where they are asked about, with what they are in words", () => {
    expect(dots("ic_length", "side")).toContain("Instant center: 2000 mm ahead of the axle, 500 mm up");
    expect(dots("roll_center", "rear")).toContain("Roll center: 650 mm up");
    expect(dots("roll_center", "top")).not.toContain("data-pull");
    expect(dots("pinion_change", "side")).not.toContain("data-pull");
  });
});

describe("dimensions and guides", () => {
  const over = (view: View) => ({
    view, document: tender, units: "in16" as const, to: projector(view, aim, cell),
    standing,
  }); // prettier-ignore
  const mount = spotsOf(tender).find((m) => m.name === "upper-left.frame")!;

  it("measure as a shop does", () => {
    const side = renderToStaticMarkup(<Dimensions {...over("side")} mount={mount} />);
    expect(side).toContain("24 7/8 in");
    expect(side).toContain("30 1/2 in");
    const top = renderToStaticMarkup(<Dimensions {...over("top")} mount={mount} />);
    expect(top).toContain("16 1/2 in");
    expect(top).toContain("31 15/16 in");
    expect(renderToStaticMarkup(<Dimensions {...over("rear")} mount={mount} />)).toContain("16 1/2 in");
  });

  it("show only what a view can show", () => {
    const lower = spotsOf(tender).find((m) => m.name === "lower-left.axle")!;
    expect(renderToStaticMarkup(<Guides {...over("side")} mount={lower} />)).not.toContain("in line");
  });
});

describe("curves", () => {
  it("stand for no less than a gauge shows, with the middle in the middle", () => {
    const { y, perPixel } = scalesOf([-1, 1], [0.01, -0.01], 2, 100, 46);
    expect(y(0)).toBeCloseTo(23, 9);
    expect(perPixel).toBeCloseTo(2 / 40, 9);
  });

  it("break where there is nothing, and hold band and ghost", () => {
    const said = renderToStaticMarkup(
      <Curve along={[-1, 0, 1, 2]} values={[1, 2, null, 3]} ghost={[1, 1, 1, 1]} band={[1, null]} here={0} hereValue={2} least={1} width={80} height={20} />,
    ); // prettier-ignore
    expect(said).toContain('class="band"');
    expect(said).toContain('class="ghost"');
    expect(said).toContain('class="here"');
  });

  it("have ends that say what they are", () => {
    const reading = readingsOf(tender).find((r) => r.id === "pinion_change")!;
    const said = renderToStaticMarkup(
      <CurveEnds
        reading={reading}
        column="pinion_change"
        solved={solvedTender()}
        behind={null}
        units="mm"
        band={null}
      />,
    );
    expect(said).toContain("At full droop: 3.0°");
    expect(said).toContain("At full bump: −2.0°");
  });
});

describe("the column of readings", () => {
  const high = finding("anti_squat", {
    value: 60,
    unit: "percent",
    high: 50,
    verdict: "high",
    severity: "fix",
  });
  const all = ["side_force", "joint_angle", "swing", "bind", "lower_angle", "separation_axle"].map((id) =>
    finding(id),
  );
  const column = (findings = [high, ...all], behind: Behind | null = null) =>
    renderToStaticMarkup(
      <Readings document={tender} solved={solvedTender(findings)} units="mm" chosen={null} behind={behind} onChoose={() => undefined} />,
    ); // prettier-ignore

  it("has value and verdict of each", () => {
    expect(column()).toContain("60 %");
    expect(column()).toContain('data-severity="fix">high<');
    expect(column().match(/data-reading/g)).toHaveLength(14);
  });

  it("leaves out what this layout has not", () =>
    expect(column([high]).match(/data-reading/g)).toHaveLength(8));

  it("has what the design behind has, judged by the same, and keeps both verdicts", () => {
    const other = solvedTender([finding("anti_squat", { value: 48, unit: "percent", verdict: "inside" })]);
    const behind: Behind = { kind: "preview", name: "a cure", document: tender, answer: other.answer };
    const said = column([high], behind);
    expect(said).toMatch(/60 %<.*>high<.*48 %.*>good</);
    expect(said).not.toContain("circle");
  });

  it("tells the value at the scrubber apart from the one that was judged", () => {
    const solved = { ...solvedTender([high]), travel: 25 };
    solved.answer.here.columns["anti_squat"] = [33];
    const column = (shown: typeof solved) =>
      renderToStaticMarkup(
        <Readings document={tender} solved={shown} units="mm" chosen={null} behind={null} onChoose={() => undefined} />,
      ); // prettier-ignore
    expect(column(solved)).toMatch(/Where it stands.*class="value">60 %<.*class="here">33 %</);
    expect(column({ ...solved, travel: 0 })).toMatch(/Through the travel.*class="value">60 %<.*<svg/);
  });
});

describe("the list of findings", () => {
  const list = (findings: ReturnType<typeof finding>[]) =>
    renderToStaticMarkup(<Findings document={tender} solved={solvedTender(findings)} units="mm" />);

  it("has those that ask for something, and counts the rest", () => {
    const said = list([
      finding("swing", { severity: "consider", title: "Link swing", unit: "deg", value: 20.5 }),
      finding("bind"),
    ]);
    expect(said).toContain("Consider: Link swing");
    expect(said).toContain("20.5°");
    expect(said).toContain("1 other figures are inside");
    expect(said).toContain("Move several a little");
  });

  it("says so when there is nothing to do", () => {
    expect(list([finding("bind")])).toContain("Nothing to stop for, to fix or to consider");
  });
});
