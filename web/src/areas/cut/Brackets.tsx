/** Brackets: pairs of plates on the axle tube or on a face, sized here, drawn flat and on the floor. */

import { useState } from "react";

import { type Document, mountLabel, spotsOf, words } from "../../document/document";
import { type Field, numeric } from "../../document/typed";
import { EditorBox } from "../../panels/EditorBox";
import { OpeningRow } from "../../panels/OpeningRow";
import { Sizes } from "../../panels/Sizes";
import { useTaking } from "../../state/room";
import { Button, Choice, List, Toggle, Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { length, lengthFigure, plain, readLength, type Units } from "../../units/tape";
import type { Shown } from "./CutSheet";
import { Faults } from "./Faults";
import { Steel, withPlateSteel } from "./Steel";
import { area, mass } from "./said";
import { FlatPlate } from "./FlatPlate";
import {
  type Bracket,
  bracketed,
  type Face,
  FACES,
  mountsBeside,
  rowOf,
  sizesOf,
  twinOf,
  withBracketAt,
  withFirstMount,
  withMountIn,
  withRow,
  withSizes,
  withTips,
} from "./making";
import { useOpenBracket } from "./PlateGrips";
import { type CutOut } from "./plate";
import { useCut } from "./plates";
import { TrussDrawn } from "./TrussDrawn";

type Take = (change: (document: Document) => Document) => Promise<boolean>;

export function Brackets({ document, units }: Shown) {
  const { key, asked } = useCut(document);
  const { why, take } = useTaking();
  const { open, set: setOpen } = useOpenBracket();
  const brackets = document.brackets ?? [];
  return (
    <section aria-label="Brackets" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      <Faults of={asked.data} within={/^brackets/} units={units} />
      {brackets.length === 0 && <p>No bracket is drawn yet. Choose a mount and what its plates stand on.</p>}
      <Another {...{ document, take }} />
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      <List aria-label="Brackets">
        {brackets.map((one) => (
          <OpeningRow
            key={one.id}
            of="bracket"
            id={one.id}
            mark={madeOf(asked.data, one) ? "●" : "○"}
            name={heldBy(document, one)}
            worth={one.id}
            open={open === one.id}
            onPress={() => setOpen(open === one.id ? null : one.id)}
          >
            <Opened {...{ document, units, take }} bracket={one} found={asked.data} />
          </OpeningRow>
        ))}
      </List>
      <TrussDrawn {...{ document, units, take }} found={asked.data} />
    </section>
  );
}

const madeOf = (found: CutOut | null | undefined, bracket: Bracket) =>
  found?.brackets.find(({ id }) => id === bracket.id);

const heldBy = (document: Document, { mounts }: Bracket): string =>
  mounts
    .map((name) => {
      const spot = spotsOf(document).find((one) => one.name === name);
      return spot ? mountLabel(spot) : words(name);
    })
    .join(" and ");

/** Another bracket, and its mirror image’s with it. */
function Another({ document, take }: { document: Document; take: Take }) {
  const [mount, setMount] = useState<string | null>(null);
  const [face, setFace] = useState<Face>("tube");
  const taken = new Set((document.brackets ?? []).flatMap(({ mounts }) => mounts));
  const open = bracketed(document).filter(({ name }) => !taken.has(name));
  const spot = open.find(({ name }) => name === mount);
  if (open.length === 0) return null;
  const faces = FACES.filter(([key]) => spot?.on !== "frame" || key !== "tube");
  const shown = faces.some(([key]) => key === face) ? face : faces[0]![0];
  return (
    <EditorBox>
      <div className="row">
        <Choice
          label="Mount"
          placeholder="Mount without a bracket"
          value={spot ? spot.name : null}
          options={open.map((one) => [one.name, mountLabel(one)] as const)}
          onChange={setMount}
        />
        <Choice label="Stands on" value={shown} options={faces} onChange={setFace} />
        <Button isDisabled={!spot} onPress={() => spot && void take((now) => withBracketAt(now, spot, shown))}>
          Draw it
        </Button>
      </div>
    </EditorBox>
  ); // prettier-ignore
}

interface OfBracket {
  document: Document;
  units: Units;
  take: Take;
  bracket: Bracket;
  found: CutOut | null;
}

function Opened({ document, units, take, bracket, found }: OfBracket) {
  const [why, setWhy] = useState<string | null>(null);
  const made = madeOf(found, bracket);
  const twin = twinOf(document, bracket);
  return (
    <EditorBox>
      {made && (
        <>
          <div className="row">
            {made.plates.map((plate) => (
              <FlatPlate key={plate.part} plate={plate} />
            ))}
          </div>
          <FigureSection
            title="As cut"
            head={["", "Area", "Mass", "Holes", "On the tube"]}
            rows={made.plates.map((plate) => [
              plate.same_as ? `${plate.part}, as ${plate.same_as}` : plate.part,
              area(plate.area, units),
              mass(plate.mass, units),
              String(plate.holes.length),
              plate.wrap === null ? "–" : `${plain(plate.wrap, 0)}°`,
            ])}
          >
            <p>
              {length(made.gap, units)} between the plates; bolt {length(made.bolt, units)}, grip{" "}
              {length(made.grip, units)}.
            </p>
          </FigureSection>
        </>
      )}
      <Sizes
        of={bracket.id}
        label="Bracket"
        submit={twin ? "Take these, for its mirror image too" : "Take these"}
        fields={bracketFields(document, bracket, units)}
        part={sizesOf(document, bracket)}
        onWhy={setWhy}
        onTake={(sizes) => take((now) => withSizes(now, bracket, sizes))}
      />
      <Steel
        {...{ document, units, found }}
        value={bracket.material ?? null}
        onChange={(steeled, name) => void take((now) => withPlateSteel(steeled(now), bracket, name))}
      />
      <Holding {...{ document, take, bracket }} />
      <div className="row">
        <Button onPress={() => void take((now) => withSizes(now, bracket, null))}>
          {twin ? "Leave it out, and its mirror image" : "Leave it out"}
        </Button>
      </div>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      <p className="quiet">
        What it and its weld carry stands under Loads. For a person to judge: whether the rail is boxed or
        open there, whether the foot spreads the load and tapers off, and whether a frame that must twist
        cracks beside so stiff a place.
      </p>
    </EditorBox>
  );
}

/** What else a bracket holds, which holes it has, and how a saddle ends. */
function Holding({ document, take, bracket }: Omit<OfBracket, "units" | "found">) {
  const beside = mountsBeside(document, bracket);
  const row = rowOf(document, bracket);
  const drilled = (bracket as Partial<Bracket>).holes?.length ?? 0; // a file may leave them out
  return (
    <div className="row">
      {beside.length > 0 && (
        <Choice
          label="Hold another mount in it"
          value={null}
          options={beside.map((one) => [one.name, mountLabel(one)] as const)}
          onChange={(name) => {
            const mount = beside.find((one) => one.name === name);
            if (mount) void take((now) => withMountIn(now, bracket, mount));
          }}
        />
      )}
      {bracket.mounts.length > 1 && (
        <Button onPress={() => void take((now) => withFirstMount(now, bracket))}>Hold the first alone</Button>
      )}
      {row.length > drilled && (
        <Button onPress={() => void take((now) => withRow(now, bracket))}>
          {`Drill its row: ${row.length} holes more`}
        </Button>
      )}
      {bracket.base.kind === "tube" && (
        <Toggle
          isSelected={bracket.tips === "square"}
          onChange={(on) => void take((now) => withTips(now, bracket, on ? "square" : "feather"))}
        >
          Tips cut square
        </Toggle>
      )}
    </div>
  );
}

type Typed = ReturnType<typeof sizesOf>;

/** How wide its fillets are; as wide as the plate is thick until somebody says. */
const weldField = ({ weld, plate }: Typed, units: Units): Field<Typed> =>
  numeric("weld", weld === null ? "Weld’s fillet (guessed)" : "Weld’s fillet", lengthFigure(weld ?? plate, units),
    (text) => readLength(text, units), (part, value) => ({ ...part, weld: weld === null && value === plate ? null : value })); // prettier-ignore

function bracketFields(document: Document, bracket: Bracket, units: Units): Field<Typed>[] {
  const sizes = sizesOf(document, bracket);
  const one = (key: keyof Typed, name: string): Field<Typed> =>
    numeric(key, name, lengthFigure(sizes[key] ?? 0, units), (text) => readLength(text, units), (part, value) => ({ ...part, [key]: value })); // prettier-ignore
  return [
    one("plate", "Plate"),
    one("edge", "Metal around each hole"),
    one("washer", "Washer, each side"),
    one("shrink", "What the weld draws in"),
    weldField(sizes, units),
    ...(bracket.base.kind === "tube"
      ? []
      : [one("away", "Hole off the face"), one("foot", "Foot along the face")]),
  ];
}
