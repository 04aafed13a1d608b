/** The room's sums: the travel budget, what the tires sweep, other stations, the tube left for brackets, the ground. */

import type { ReactNode } from "react";

import { useState } from "react";

import { type Schemas, server } from "../../api/client";
import { type Document, pairOf, words } from "../../document/document";
import { keepOutAcross } from "../../document/room";
import { partWords } from "../../panels/Gaps";
import { useAsked } from "../../solve/asking";
import { Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { length, lengthFigure, plain, readLength, type Units, unitSign } from "../../units/tape";

type Room = Schemas["RoomOut"];
type End = Room["budget"]["ends"][number];
type Limit = End["limits"][number];

interface Of {
  document: Document;
  units: Units;
}

const BRACKET_MM = 76;

export function Sums({ document, units }: Of) {
  const [bracket, setBracket] = useState(BRACKET_MM);
  const key = JSON.stringify([document, bracket]);
  const asked = useAsked(key, (signal) => server.room({ document, bracket }, signal), 500);
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  if (!asked.data) return <p role="status">Working the room out…</p>;
  const room = asked.data;
  return (
    <div data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {room.unknown.map(({ zone, mount }) => (
        <Trouble key={`${zone} ${mount}`}>
          The zone {zone} is for {mount}, which is not there: it is kept, and holds nothing.
        </Trouble>
      ))}
      <Travel {...{ document, units, room }} />
      <Tires {...{ document, units, room }} />
      <Stations {...{ document, units, room }} />
      <Tubes {...{ document, units, room, bracket }} onBracket={setBracket} />
      <Ground {...{ document, units, room }} />
    </div>
  );
}

type Shown = Of & { room: Room };

const amount = (value: number, unit: End["unit"], units: Units): string =>
  unit === "deg" ? `${plain(value, 1)}°` : length(value, units);

/** What ends a way, or comes too near on it. */
export function limitWords(document: Document, { why, a, b }: Limit): string {
  if (why === "links") return "a link runs out";
  if (why === "corner") return `${words(a).toLowerCase()} is at its end`;
  const both = `${partWords(document, a).toLowerCase()} and ${partWords(document, b).toLowerCase()}`;
  return why === "meets" ? `${both} meet` : `${both} too near`;
}

/** What comes first on a way, and what next; its mirror image is no next. */
function firstWords(document: Document, { limits, unit, looked }: End, units: Units): string {
  const [first, ...rest] = limits;
  if (!first) return `nothing up to ${amount(looked, unit, units)}`;
  const pairs = (name: string) => [name, pairOf(document, name) ?? keepOutAcross(document, name)];
  const next = rest.find(({ a, b }) => !pairs(first.a).includes(a) || !pairs(first.b).includes(b));
  const said = (limit: Limit) => `${limitWords(document, limit)} at ${amount(limit.at, unit, units)}`;
  return next ? `${said(first)}; then ${said(next)}` : said(first);
}

const WAYS: Record<string, string> = { bump: "Bump", droop: "Droop" };
const wayWords = (way: string): string => WAYS[way] ?? way.charAt(0).toUpperCase() + way.slice(1);

function Travel({ document, units, room }: Shown) {
  const { ends, up_share: share } = room.budget;
  const { low, high, why } = room.up_share;
  const percent = (v: number) => plain(100 * v, 0);
  if (ends.length === 0)
    return <p>Nothing holds the axle, so nothing can be said of its travel: give it its links first.</p>;
  return (
    <FigureSection
      title="Travel budget"
      head={["", "Asked", "First of all", "Kept"]}
      rows={ends.map((end) => [
        wayWords(end.way),
        amount(end.asked, end.unit, units),
        firstWords(document, end, units),
        end.margin === null ? (
          "enough"
        ) : (
          <span className={end.margin < 0 ? "bad" : ""}>
            {end.margin < 0
              ? `${amount(-end.margin, end.unit, units)} short`
              : amount(end.margin, end.unit, units)}
          </span>
        ),
      ])}
    >
      {share !== null && (
        <p className="quiet">
          {percent(share)} % of the travel is up. House value for this use: {percent(low)} to {percent(high)}{" "}
          %{share < low ? "; less is up here" : share > high ? "; more is up here" : ""}. {why}
        </p>
      )}
    </FigureSection>
  );
}

type Nearest = { a: string; b: string; gap: number; wanted: number } | null;

/** What comes nearest, and whether it is wanted so near. */
function nearWords(document: Document, gap: Nearest, units: Units, own = ""): ReactNode {
  if (!gap) return "nothing there";
  const said = [gap.a, gap.b]
    .filter((name) => name !== own)
    .map((name) => partWords(document, name).toLowerCase())
    .join(" and ");
  return (
    <span className={gap.gap < gap.wanted ? "bad" : ""}>
      {gap.gap <= 0 ? `${said}: they meet` : `${said}: ${length(gap.gap, units)}`}
      {gap.gap < gap.wanted && gap.gap > 0 && ` of ${length(gap.wanted, units)}`}
    </span>
  );
}

function Tires({ document, units, room }: Shown) {
  const fig = (mm: number) => lengthFigure(mm, units);
  return (
    <FigureSection
      title={`What the tires sweep, ${unitSign(units)}`}
      head={["", "Fore-aft", "In, out", "Top", "Nearest"]}
      rows={room.tires.map(({ tire, low, high, nearest }) => {
        const side = tire === "tire-left" ? 1 : -1;
        const [inner, outer] = side > 0 ? [low[1], high[1]] : [-high[1], -low[1]];
        return [
          tire === "tire-left" ? "Left" : "Right",
          `${fig(low[0])} to ${fig(high[0])}`,
          `${fig(inner)} to ${fig(outer)}`,
          fig(high[2]),
          nearWords(document, nearest, units, tire),
        ];
      })}
    >
      <p className="quiet">
        Over all travel and twist{document.steering ? " and full lock" : ""}, from the axle’s middle and the
        floor at ride; nearest as far as stops and straps let the axle come.
      </p>
    </FigureSection>
  );
}

function Stations({ document, units, room }: Shown) {
  const shaft = room.stations.some((one) => one.shaft_length !== null);
  return (
    <FigureSection
      title="The axle at another station"
      head={["Moved", "Wheelbase", "Tires", "Least of all", ...(shaft ? ["Shaft"] : [])]}
      rows={room.stations.map((one) => [
        one.by === 0 ? "As it is" : `${length(Math.abs(one.by), units)} ${one.by > 0 ? "forward" : "back"}`,
        lengthFigure(one.wheelbase, units),
        nearWords(document, one.tire, units),
        nearWords(document, one.least, units),
        ...(shaft ? [shaftWords(one.shaft_longer, units)] : []),
      ])}
    >
      <p className="quiet">
        With all its links; what stands on the frame stays. Move it under Truck: its station.
      </p>
    </FigureSection>
  );
}

const shaftWords = (longer: number | null, units: Units): string =>
  longer === null || Math.abs(longer) < 0.5
    ? "as it is"
    : `${length(Math.abs(longer), units)} ${longer > 0 ? "longer" : "shorter"}`;

const OVER = {
  fits: "fits",
  housing: "over the housing",
  end: "past the tube’s end",
  beside: "over the next",
};

/** How wide a bracket is, typed. */
function Wide(props: { bracket: number; units: Units; onBracket: (mm: number) => void }) {
  const { bracket, units, onBracket } = props;
  const [text, setText] = useState<string | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const take = () => {
    const mm = text === null ? bracket : readLength(text, units);
    if (typeof mm === "number" && mm > 0 && mm <= 1000) onBracket(mm);
    setWhy(typeof mm === "string" ? mm : mm > 0 && mm <= 1000 ? null : "A bracket has some width.");
    if (typeof mm === "number") setText(null);
  };
  return (
    <>
      <label>
        A bracket with its welds takes up{" "}
        <input
          size={6}
          value={text ?? lengthFigure(bracket, units)}
          onChange={(event) => setText(event.target.value)}
          onBlur={take}
          onKeyDown={(event) => event.key === "Enter" && take()}
        />{" "}
        {unitSign(units)}
      </label>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </>
  );
}

function Tubes(props: Shown & { bracket: number; onBracket: (mm: number) => void }) {
  const { units, room } = props;
  return (
    <FigureSection
      title="Bare tube for brackets"
      head={["", "Bare", "Brackets", "Left"]}
      rows={room.tubes.map((tube) => [
        tube.side === "left" ? "Left" : "Right",
        length(tube.outer - tube.inner, units),
        tube.brackets.length === 0
          ? "none"
          : tube.brackets.map((one) => (
              <div key={one.mounts.join()} className={one.what === "fits" ? "" : "bad"}>
                {one.mounts.map((name) => words(name.split(".")[0]!).toLowerCase()).join(", ")}:{" "}
                {OVER[one.what]}
                {one.over > 0 && ` by ${length(one.over, units)}`}
              </div>
            )),
        <span key="left" className={tube.spare < 0 ? "bad" : ""}>
          {length(tube.spare, units)}
        </span>,
      ])}
    >
      <p className="quiet">
        From the housing to the inside of the tire, before a truss is drawn; brakes and spring seats are not
        counted.
      </p>
      <Wide {...props} />
    </FigureSection>
  );
}

const LOWEST = 6;

function Ground({ document, units, room }: Shown) {
  const { low, breakover, departure, breakover_by: between, departure_by: beyond } = room.under;
  const end = document.axle.end === "rear" ? "Departure" : "Approach";
  const said = (name: string) =>
    name.endsWith(" bracket")
      ? `${words(name.replace(/\..*/, "")).toLowerCase()} bracket`
      : partWords(document, name).toLowerCase();
  return (
    <FigureSection
      title="Above the ground"
      head={["Lowest", "At ride", "At bump"]}
      rows={low.slice(0, LOWEST).map((one) => {
        const shown = said(one.name);
        return [
          shown.charAt(0).toUpperCase() + shown.slice(1) + (one.name.includes(".frame") ? " (frame)" : ""),
          length(one.ride, units),
          one.bump === null ? (
            "not reached"
          ) : (
            <span key="bump" className={one.bump < 0 ? "bad" : ""}>
              {length(one.bump, units)}
            </span>
          ),
        ];
      })}
    >
      <p className="quiet">
        {breakover !== null && `Breakover ${plain(breakover, 0)}°, by the ${said(between)}. `}
        {departure !== null && `${end} ${plain(departure, 0)}°, by the ${said(beyond)}. `}
        Of what is said here and the mounts; brackets are taken to reach {length(32, units)} below their
        bolts.
      </p>
    </FigureSection>
  );
}
