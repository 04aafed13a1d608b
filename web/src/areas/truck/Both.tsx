/** Both axles of the truck side by side, their travel matched; and an axle moved fore-aft, with what that does. */

import { type ReactNode, useState } from "react";

import { type Build, type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { partWords } from "../../panels/Gaps";
import { type TruckDocument, useTruck } from "../../state/truck";
import { useAsked } from "../../solve/asking";
import { Button, Choice, Trouble, Typed } from "../../ui/controls";
import { length, plain, readLength, type Units } from "../../units/tape";
import { Form } from "./ReadingForm";
import { Scrolled } from "./Scrolled";
import { rakeOf } from "./Drawn";

type End = "front" | "rear";
const ENDS: readonly End[] = ["front", "rear"];
type Line = Build["designs"][number];

/** The designs of an axle that can be read. */
const linesOf = (lines: readonly Line[], end: End): Line[] =>
  lines.filter((one) => one.end === end && !one.damaged);

interface Shown {
  open: Document;
  design: number;
  build: number;
  truck: TruckDocument;
  units: Units;
}

/** Which design stands for each end: the open one for its own, the first of the other end unless another is chosen. */
export function usePair({ open, design, build }: Pick<Shown, "open" | "design" | "build">) {
  const [chosen, setChosen] = useState<Partial<Record<End, number>>>({});
  const lines = useAsked(`build ${build} ${open.name}`, () => server.build(build));
  const other: End = open.axle.end === "rear" ? "front" : "rear";
  const here = linesOf(lines.data?.designs ?? [], other);
  const id = chosen[other] ?? here[0]?.id ?? null;
  const fetched = useAsked(id === null ? null : `design ${id}`, () => server.design(id!));
  const document = id === null || fetched.key !== `design ${id}` ? null : (fetched.data?.document ?? null);
  const pair = { [open.axle.end]: open, [other]: document } as Record<End, Document | null>;
  const ids = { [open.axle.end]: design, [other]: id } as Record<End, number | null>;
  const why = lines.why ?? fetched.why;
  return { pair, ids, other, here, why, choose: (next: number) => setChosen({ ...chosen, [other]: next }) };
}

export function Both({
  truck,
  units,
  standing,
}: Pick<Shown, "truck" | "units"> & { standing: ReturnType<typeof usePair> }) {
  const { pair, ids, other, here, why, choose } = standing;
  return (
    <section aria-label="Both axles">
      <h2>Both axles</h2>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      {here.length === 0 ? (
        <p className="quiet">
          This truck has no {other} design yet: its side of the table is the truck’s own.
        </p>
      ) : (
        here.length > 1 && (
          <Choice
            label={`Which ${other} design`}
            value={String(ids[other] ?? "")}
            options={here.map((line) => [String(line.id), line.name] as const)}
            onChange={(id) => choose(Number(id))}
          />
        )
      )}
      <Scrolled>
        <table>
          <thead>
            <tr>
              <td />
              <th scope="col">Front</th>
              <th scope="col">Rear</th>
            </tr>
          </thead>
          <tbody>
            {rowsOf(truck, pair, units).map(([name, front, rear]) => (
              <tr key={name}>
                <th scope="row">{name}</th>
                <td>{front}</td>
                <td>{rear}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scrolled>
      <p>{matched(truck, pair, units)}</p>
      <Move {...{ truck, units, pair }} />
    </section>
  );
}

/** What both axles are, a row each: name, front, rear. */
export function rowsOf(
  truck: TruckDocument,
  pair: Record<End, Document | null>,
  units: Units,
): [string, ReactNode, ReactNode][] {
  const own = (
    name: string,
    key: "station" | "tire_diameter" | "tire_radius_loaded" | "tire_width" | "track",
  ) => [name, ...ENDS.map((end) => length(truck.axles[end][key], units))] as [string, string, string];
  const designed = (name: string, said: (document: Document) => string) =>
    [name, ...ENDS.map((end) => (pair[end] ? said(pair[end]) : "–"))] as [string, string, string];
  return [
    designed("Design", (one) => one.name),
    own("Station", "station"),
    own("Tire", "tire_diameter"),
    own("Loaded radius", "tire_radius_loaded"),
    own("Tire width", "tire_width"),
    own("Track", "track"),
    designed("Axle tube", (one) => length(one.axle.tube_diameter, units)),
    designed("Pinion, nose up", (one) => `${plain(one.axle.pinion.angle, 1)}°`),
    designed("Bump", ({ travel }) => length(travel.bump, units)),
    designed("Droop", ({ travel }) => length(travel.droop, units)),
    designed("Twist", ({ travel }) => `${plain(travel.articulation, 1)}°`),
    designed("Part of it up", ({ travel }) => share(travel.bump, travel.droop)),
  ];
}

const share = (bump: number, droop: number): string =>
  bump + droop > 0 ? `${plain((100 * bump) / (bump + droop), 0)} %` : "–";

const SAME_MM = 0.5;

/** How the two axles’ travel goes together, and the rake, in words. */
export function matched(truck: TruckDocument, pair: Record<End, Document | null>, units: Units): string {
  const wheelbase = truck.axles.front.station - truck.axles.rear.station;
  const rake = rakeOf(truck);
  const leans =
    Math.abs(rake) < 0.05 ? "level" : `${plain(Math.abs(rake), 1)}° nose ${rake > 0 ? "up" : "down"}`;
  const first = `Wheelbase ${length(wheelbase, units)}; the line of the axles is ${leans}.`;
  const { front, rear } = pair;
  if (!front || !rear) return first;
  const said = (["bump", "droop"] as const).map((way) => {
    const more = rear.travel[way] - front.travel[way];
    return Math.abs(more) < SAME_MM
      ? `${way === "bump" ? "Bump" : "Droop"} is the same at both ends.`
      : `The ${more > 0 ? "rear" : "front"} has ${length(Math.abs(more), units)} more ${way}.`;
  });
  return [first, ...said].join(" ");
}

/** An axle moved on the frame: what that does is said before it is done. */
function Move({
  truck,
  units,
  pair,
}: Pick<Shown, "truck" | "units"> & { pair: Record<End, Document | null> }) {
  const [end, setEnd] = useState<End>("rear");
  const [text, setText] = useState("");
  const [way, setWay] = useState<"forward" | "back">("forward");
  const move = useTruck((s) => s.move);
  const mm = text.trim() === "" ? null : readLength(text, units);
  const by = typeof mm === "number" ? (way === "forward" ? mm : -mm) : 0;
  const document = pair[end];
  const key = by === 0 || !document ? null : JSON.stringify([document, by]);
  const asked = useAsked(key, (signal) => server.stations({ document: document!, moved: [0, by] }, signal));
  const found = key !== null && asked.key === key ? asked.data : null;
  return (
    <Form
      aria-label="Move an axle"
      onSubmit={(event) => {
        event.preventDefault();
        if (by !== 0) void move(end, by).then((had) => had && setText(""));
      }}
    >
      <Choice
        label="Which axle"
        value={end}
        options={[
          ["front", "Move the front axle"],
          ["rear", "Move the rear axle"],
        ]}
        onChange={setEnd}
      />
      <Typed words="By" value={text} onChange={setText} />
      <Choice
        label="Which way"
        value={way}
        options={[
          ["forward", "Forward"],
          ["back", "Back"],
        ]}
        onChange={setWay}
      />
      <Button type="submit" isDisabled={by === 0}>
        Move it, links and all
      </Button>
      {typeof mm === "string" && <Trouble role="alert">{mm}</Trouble>}
      {by !== 0 && <Does {...{ truck, units, end, by, document, found }} why={asked.why} />}
    </Form>
  );
}

type Station = Schemas["Station"];

/** What a move does to wheelbase, shaft and room. */
function Does(props: {
  truck: TruckDocument;
  units: Units;
  end: End;
  by: number;
  document: Document | null;
  found: Station[] | null;
  why: string | null;
}) {
  const { truck, units, end, by, document, found, why } = props;
  const base = truck.axles.front.station - truck.axles.rear.station;
  const then = base + (end === "front" ? by : -by);
  return (
    <p role="status">
      Wheelbase {length(base, units)} to {length(then, units)}. {why}
      {document && found === null && why === null && " Working out the rest…"}
      {document && found?.length === 2 && ` ${doesWords(document, found[0]!, found[1]!, units)}`}
    </p>
  );
}

export function doesWords(document: Document, now: Station, then: Station, units: Units): string {
  const near = (gap: Station["least"]) =>
    !gap
      ? "nothing"
      : `${partWords(document, gap.a).toLowerCase()} and ${partWords(document, gap.b).toLowerCase()}, ${gap.gap <= 0 ? "which meet" : `${length(gap.gap, units)} apart of ${length(gap.wanted, units)} wanted`}`;
  const shaft =
    then.shaft_longer === null
      ? "No driveshaft is said."
      : `The shaft is ${length(Math.abs(then.shaft_longer), units)} ${then.shaft_longer > 0 ? "longer" : "shorter"} at ride.`;
  return `${shaft} Nearest to anything: now ${near(now.least)}; then ${near(then.least)}.`;
}
