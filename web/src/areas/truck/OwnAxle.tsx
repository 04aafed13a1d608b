/** The open design's own axle: tube, pinion, travel and shares, seen, set, and where each comes from. */

import { useState } from "react";

import { type Document, valueAt } from "../../document/document";
import { stepped } from "../../document/steps";
import { type Source, TableOfFigures, withSource } from "../../panels/TruckFigures";
import { taken } from "../../state/room";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Choice } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { readTyped, typedFigure } from "./reading";

type Path = readonly (string | number)[];

interface Own {
  path: Path;
  words: string;
  unit: "mm" | "deg" | "kg" | "share";
  /** On which axles; both where nothing is said. */
  only?: "front" | "rear";
}

export const OWN: readonly Own[] = [
  { path: ["axle", "tube_diameter"], words: "Axle tube, diameter", unit: "mm" },
  { path: ["axle", "mass"], words: "Mass of the axle, wheels and all", unit: "kg" },
  { path: ["axle", "pinion", "joint", 0], words: "Pinion’s joint, ahead of the axle", unit: "mm" },
  { path: ["axle", "pinion", "joint", 1], words: "Pinion’s joint, left of center", unit: "mm" },
  { path: ["axle", "pinion", "joint", 2], words: "Pinion’s joint, off the floor", unit: "mm" },
  { path: ["axle", "pinion", "angle"], words: "Pinion, nose up", unit: "deg" },
  { path: ["axle", "caster"], words: "Caster", unit: "deg", only: "front" },
  { path: ["axle", "housing", "diameter"], words: "Housing, as a ball", unit: "mm" },
  { path: ["travel", "bump"], words: "Bump from ride", unit: "mm" },
  { path: ["travel", "droop"], words: "Droop from ride", unit: "mm" },
  { path: ["travel", "articulation"], words: "Twist either way", unit: "deg" },
  { path: ["vehicle", "drive_share"], words: "Share of the drive at this axle", unit: "share" },
];

const HOUSING_TUBES = 3.2;
const SOURCES: readonly (readonly [Source, string])[] = [
  ["measured", "Measured"],
  ["catalog", "Catalog"],
  ["guessed", "Guessed"],
];

/** Where the truck keeps the source of an axle’s own figure. */
export const sourcePath = (document: Document, { path }: Own): string =>
  `designs.${document.axle.end}.${path.join(".")}`;

/** The design with a figure of its own; where there is no housing yet, one about the axle’s middle. */
export function withOwn(document: Document, { path }: Own, value: number): Document {
  const { axle } = document;
  const at = [0, axle.pinion.joint[1], axle.tire_radius_loaded];
  const whole = path[1] === "housing" && !axle.housing ? { path: ["axle", "housing"], to: { at, diameter: value } } : { path: [...path], to: value }; // prettier-ignore
  return stepped(document, [whole], "again");
}

export function OwnAxle(props: { document: Document; truck: TruckDocument; units: Units }) {
  const { document, truck, units } = props;
  const { end } = document.axle;
  return (
    <section aria-label="This axle">
      <h2>This axle: {document.name}</h2>
      <TableOfFigures style={{ maxHeight: "none" }}>
        {OWN.filter((own) => !own.only || own.only === end).map((own) => (
          <Row key={own.path.join(".")} {...{ own, document, truck, units }} />
        ))}
      </TableOfFigures>
    </section>
  );
}

/** What is typed for a figure: taken where the reader takes it, else said and left standing. */
function useTyping(own: Own, stands: string, units: Units) {
  const [text, setText] = useState<string | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const take = async () => {
    if (text === null || text === stands) {
      setText(null);
      return;
    }
    const read = readTyped(text, own.unit, units);
    const refused = typeof read === "string" ? read : await taken((now) => withOwn(now, own, read));
    setWhy(refused);
    if (refused === null) setText(null);
  };
  const put = (next: string | null) => {
    setWhy(null);
    setText(next);
  };
  return { text, why, take, put };
}

function Row(props: { own: Own; document: Document; truck: TruckDocument; units: Units }) {
  const { own, document, truck, units } = props;
  const value = valueAt(document, [...own.path]) as number | null | undefined;
  const stands = typeof value === "number" ? typedFigure(value, own.unit, units) : "";
  const { text, why, take, put } = useTyping(own, stands, units);
  const edit = useTruck((s) => s.edit);
  const path = sourcePath(document, own);
  return (
    <div className="row">
      <label>
        {own.words}
        <input
          value={text ?? stands}
          placeholder={own.path[1] === "housing" ? `guessed: ${HOUSING_TUBES} tubes` : "not said"}
          spellCheck={false}
          autoComplete="off"
          data-own={own.path.join(".")}
          aria-invalid={why !== null}
          onFocus={(event) => event.target.select()}
          onChange={(event) => put(event.target.value)}
          onBlur={() => void take()}
          onKeyDown={(event) => {
            if (event.key === "Enter") void take();
          }}
        />
      </label>
      <Choice
        label={`Where it comes from: ${own.words.toLowerCase()}`}
        value={(truck.sources ?? {})[path] ?? "guessed"}
        options={SOURCES}
        onChange={(source) => void edit(withSource(truck, path, source))}
      />
      {why !== null && (
        <span className="why" role="alert">
          {why} It stays at {stands || "nothing said"}. <Button onPress={() => put(null)}>Leave it</Button>
        </span>
      )}
    </div>
  );
}
