/** Which steel a tube or a plate is of: the design's own entries, and common ones by a textbook's figures. */

import type { Document } from "../../document/document";
import { words } from "../../document/document";
import { withSteel } from "../../state/catalog";
import { Choice } from "../../ui/controls";
import { showStress } from "../../units/forces";
import type { Units } from "../../units/tape";
import { type Bracket, twinOf } from "./making";
import type { CutOut } from "./plate";

type Materials = NonNullable<Document["materials"]>;

interface Of {
  document: Document;
  units: Units;
  found: CutOut | null;
  value: string | null;
  onChange: (change: (document: Document) => Document, name: string) => void;
}

export function Steel({ document, units, found, value, onChange }: Of) {
  const every = { ...found?.steels, ...document.materials } as Materials;
  if (Object.keys(every).length === 0) return null;
  return (
    <>
      <Choice
        label="Steel"
        placeholder="Steel: not said"
        value={value}
        options={Object.entries(every).map(([id, one]) => [
          id,
          `${one.name || words(id)}, yields at ${showStress(one.yield, units)}`,
        ])}
        onChange={(name) => onChange((now) => withSteel(now, every, name), name)}
      />
      {value === null && <p className="quiet">Its steel is guessed: say which, by its maker’s certificate.</p>}
    </>
  ); // prettier-ignore
}

/** The document with a bracket, and its twin, of that steel. */
export function withPlateSteel(document: Document, bracket: Bracket, material: string): Document {
  const both = [bracket.id, twinOf(document, bracket)?.id];
  const brackets = (document.brackets ?? []).map((one) =>
    both.includes(one.id) ? { ...one, material } : one,
  );
  return { ...document, brackets };
}
