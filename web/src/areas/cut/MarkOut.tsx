/** Where everything goes that is welded: marks for each bracket, holes to jig by, diagonals to check with. */

import { useState } from "react";

import { type Schemas, server } from "../../api/client";
import { type Document, mountLabel, spotsOf, words } from "../../document/document";
import type { Field } from "../../document/typed";
import { EditorBox } from "../../panels/EditorBox";
import { Sizes } from "../../panels/Sizes";
import { useAsked } from "../../solve/asking";
import { useTaking } from "../../state/room";
import { Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { length, lengthFigure, plain, readLength, unbroken, type Units } from "../../units/tape";
import type { Shown } from "./CutSheet";

type Marks = Schemas["MarkOut"];
type BracketMarks = Marks["brackets"][number];
type Spotted = BracketMarks["hole"];
type Axle = Document["axle"];

export function MarkOut({ document, units }: Shown) {
  const key = JSON.stringify(document);
  const asked = useAsked<Marks>(key, (signal) => server.markOut({ document }, signal), 120);
  const found = asked.data;
  const named = (name: string) => {
    const spot = spotsOf(document).find((one) => one.name === name);
    return spot ? mountLabel(spot) : words(name);
  };
  return (
    <section aria-label="Mark-out" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!found && asked.state === "asking" && <p role="status">Measuring…</p>}
      {found && (
        <>
          {found.brackets.length === 0 && (
            <p>No bracket can be marked out yet: draw one at Brackets. Holes to jig by stand below.</p>
          )}
          {found.faults.length > 0 && (
            <p>
              {found.faults.length === 1 ? "One bracket" : `${found.faults.length} brackets`} can’t be made as
              drawn: Brackets says why.
            </p>
          )}
          {found.brackets.map((one) => (
            <Bracket key={one.id} {...{ units, named }} marks={one} pinion={found.pinion} />
          ))}
          <TrussMarks {...{ units }} of={found.truss} pinion={found.pinion} />
          <Holes title="Axle, hole to hole" of={found.axle} {...{ units, named }} />
          <Holes title="Frame, hole to hole" of={found.frame} {...{ units, named }} />
          <Holes title="Axle to frame, crosswise" of={found.square} {...{ units, named }}>
            Alike two by two on a truck that is square, at ride height.
          </Holes>
        </>
      )}
      {units !== "mm" && (
        <p className="quiet">After a length: what the nearest mark of the tape leaves off, in inches.</p>
      )}
      <Faces document={document} units={units} />
    </section>
  );
}

/** A length as the tape shows it, and what that leaves off. */
function tape(mm: number | null | undefined, units: Units): string {
  if (mm === null || mm === undefined) return "–";
  const said = unbroken(length(mm, units));
  const read = readLength(length(mm, units), units);
  const off = typeof read === "number" ? mm - read : 0;
  return units === "mm" || Math.abs(off) < 0.05
    ? said
    : `${said}\u00a0${off > 0 ? "+" : "−"}${plain(Math.abs(off) / 25.4, 3)}`;
}

/** Both ends of a plate's foot with their names: which of them is which can be seen at the plate. */
function endsOf(ends: readonly Spotted[]): [string, Spotted][] {
  const [one, other] = ends as [Spotted, Spotted];
  const along = Math.abs(one.at[0] - other.at[0]) >= Math.abs(one.at[2] - other.at[2]);
  if (along) return [["front", one], ["rear", other]]; // prettier-ignore
  return one.at[2] > other.at[2]
    ? [
        ["upper", one],
        ["lower", other],
      ]
    : [
        ["upper", other],
        ["lower", one],
      ];
}

const TRUSS_ENDS = ["right, rear", "right, front", "left, rear", "left, front"];

/** Where a truss's sides come down on the tube at its ends. */
function TrussMarks({ of, pinion, units }: { of: Marks["truss"]; pinion: number; units: Units }) {
  return (
    <FigureSection
      title="Truss: outside of a side, at its end"
      head={["", "Left", "From wheel", "From housing", "From plumb"]}
      rows={of.map((one, n) => [
        TRUSS_ENDS[n],
        tape(one.at[1], units),
        tape(one.wheel, units),
        tape(one.housing, units),
        `${plain(one.clock ?? 0, 1)}°`,
      ])}
    >
      <p>0° is straight up with the pinion {nose(pinion)}; + toward the front.</p>
    </FigureSection>
  );
}

const nose = (angle: number): string => `${plain(Math.abs(angle), 1)}° nose ${angle >= 0 ? "up" : "down"}`;

interface Named {
  units: Units;
  named: (mount: string) => string;
}

function Bracket({ marks, pinion, units, named }: Named & { marks: BracketMarks; pinion: number }) {
  const { on, plates, hole, off, spacer, width } = marks;
  const rows = plates.flatMap((plate) =>
    endsOf(plate.ends).map(([name, end]) => [
      `${plate.part}, ${name}`,
      ...(on === "tube"
        ? [
            tape(end.at[1], units),
            tape(end.wheel, units),
            tape(end.housing, units),
            `${plain(end.clock!, 1)}°`,
          ]
        : [tape(end.at[0], units), tape(end.at[1], units), tape(end.at[2], units), tape(end.under, units)]),
    ]),
  );
  return (
    <FigureSection
      title={`${marks.id}: ${marks.mounts.map(named).join(" and ")}`}
      head={
        on === "tube"
          ? ["Inside of plate", "Left of center", "From wheel", "From housing", "From plumb"]
          : ["Inside of plate", "Ahead of axle", "Left of center", "Over floor", "Over rail’s underside"]
      }
      rows={rows}
    >
      <p>
        {on === "tube"
          ? `The hole is ${tape(off, units)} from the middle of the tube, ${plain(hole.clock!, 1)}° from plumb. 0° is straight up with the pinion set ${nose(pinion)}; + is toward the front, right of center is −.`
          : `The hole is ${tape(off, units)} off the face. At ride height; right of center is −.`}{" "}
        Weld over a spacer of {tape(spacer, units)}; the joint is {tape(width, units)} wide.
      </p>
    </FigureSection>
  );
}

function Holes(props: Named & { title: string; of: Marks["axle"]; children?: string }) {
  const { title, of, units, named, children } = props;
  if (of.length === 0) return null;
  return (
    <FigureSection
      title={title}
      head={["", "Apart"]}
      rows={of.map(({ a, b, apart }) => [`${named(a)} to ${named(b)}`, tape(apart, units)])}
    >
      {children && <p>{children}</p>}
    </FigureSection>
  );
}

/** What stations on the tube are measured from. */
function Faces({ document, units }: { document: Document; units: Units }) {
  const { why, take } = useTaking();
  const [wrong, setWrong] = useState<string | null>(null);
  const { axle } = document;
  return (
    <EditorBox>
      <p className="quiet">What stations on the tube are measured from; leave empty what nobody measured.</p>
      <Sizes
        of="the axle"
        label="Faces to measure from"
        submit="Take these"
        fields={facesOf(axle, units)}
        part={axle}
        onWhy={setWrong}
        onTake={(next) => take((now) => ({ ...now, axle: next }))}
      />
      {(wrong ?? why) !== null && <Trouble role="alert">{wrong ?? why}</Trouble>}
    </EditorBox>
  );
}

function facesOf(axle: Axle, units: Units): Field<Axle>[] {
  const size = (key: "wheel_faces" | "housing_left" | "housing_right", said: string): Field<Axle> => ({
    key,
    words: said,
    text: axle[key] == null ? "" : lengthFigure(axle[key], units),
    put: (part, text) => {
      const mm = text.trim() === "" ? null : readLength(text, units);
      return typeof mm === "string" ? mm : { ...part, [key]: mm };
    },
  });
  return [
    size("wheel_faces", "Wheel faces apart"),
    size("housing_left", "Center to left tube"),
    size("housing_right", "Center to right tube"),
  ];
}
