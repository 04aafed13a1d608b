/** The construction: choose a point and a station, get frame holes and link lengths. */

import { type SubmitEvent, useEffect, useState } from "react";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import { type Document, spotsOf, placed, words } from "../../document/document";
import { useDesign } from "../../state/design";
import { Button, Choice, Entries, Trouble } from "../../ui/controls";
import { length, readLength, type Units } from "../../units/tape";
import { create } from "zustand";
import { dropPreview, preview } from "../../state/behind";
import type { PaneProps } from "../../panels/FindingPane";
import styled from "styled-components";

const Form = styled(Entries)`
  grid-template-columns: 1fr 1fr;
  gap: 0.375rem 0.5rem;
  .wide {
    grid-column: 1 / -1;
  }
  table {
    width: 100%;
    font-size: 0.875rem;
    border-collapse: collapse;
  }
  th,
  td {
    text-align: left;
    font-weight: 400;
    border-bottom: 1px solid var(--hair);
  }
`;

/** The chosen point and station while the construction is open, for the drawing. */
export const useConverging = create<{
  point: [number, number] | null;
  station: number | null;
  kind: "lower" | "upper";
}>()(() => ({ point: null, station: null, kind: "upper" }));

type Kind = "lower" | "upper";

/** Where the links' own frame mounts stand, on the average: the station to begin with. */
function stationOf(document: Document, kind: Kind): number {
  const xs = spotsOf(document)
    .filter((m) => m.kind === `${kind}.frame`)
    .map((m) => m.at[0]);
  return xs.length ? xs.reduce((a, b) => a + b, 0) / xs.length : 800;
}

type Texts = Record<"ahead" | "up" | "station", string>;

/** What is typed, what was found for it, and asking for it. */
function useConstruction(document: Document, units: Units) {
  const forward = document.axle.end === "rear" ? 1 : -1;
  const [kind, setKind] = useState<Kind>("upper");
  const [texts, setTexts] = useState<Texts>({
    ahead: length(forward * document.vehicle.wheelbase, units),
    up: length(document.axle.tire_radius_loaded, units),
    station: length(stationOf(document, "upper"), units),
  });
  const [sought, setFound] = useState<{ document: Document; holes: Schemas["Hole"][] } | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  // what was found holds for the document it was found for, and for as long as the construction is open
  useEffect(() => clear, [document]);
  const drop = () => {
    setFound(null);
    setWhy(null);
    clear();
  };
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    drop();
    const asked = await holesFor(document, kind, texts, units);
    if (typeof asked === "string") {
      setWhy(asked);
      return;
    }
    setFound({ document, holes: asked.holes });
    useConverging.setState({ point: asked.point, station: asked.station, kind });
    preview("the holes found", placed(document, at(asked.holes)));
  };
  const choose = (next: Kind) => {
    setKind(next);
    setTexts({ ...texts, station: length(stationOf(document, next), units) });
    drop();
  };
  const found = sought?.document === document ? sought.holes : null;
  return { kind, choose, texts, setTexts, found, why, drop, submit };
}

/** The holes, or in words why there are none. */
async function holesFor(document: Document, kind: Kind, texts: Texts, units: Units) {
  const read: Record<string, number> = {};
  for (const [name, text] of Object.entries(texts)) {
    const typed = readLength(text, units);
    if (typeof typed === "string") return typed;
    read[name] = typed;
  }
  const point: [number, number] = [read["ahead"]!, read["up"]!];
  const station = read["station"]!;
  try {
    const { data, error } = await server.converge({ document, kind, point, station });
    if (!data) return reasonOf(error);
    return data.length === 0 ? `This design has no ${kind} links.` : { holes: data, point, station };
  } catch {
    return NO_SERVER;
  }
}

const FIELDS: [keyof Texts, string][] = [
  ["station", "Station, ahead of the axle"],
  ["ahead", "Point, ahead of the axle"],
  ["up", "Point, off the floor"],
];

export function ConvergePane({ document, units }: PaneProps) {
  const { kind, choose, texts, setTexts, found, why, drop, submit } = useConstruction(document, units);
  return (
    <Form onSubmit={(event) => void submit(event)} aria-label="Converge on a point">
      <p className="quiet wide">
        Lines from the axle mounts to one point; where they cross the bracket’s station are the frame holes.
      </p>
      <Choice
        label="Links"
        value={kind}
        options={[
          ["upper", "Upper links"],
          ["lower", "Lower links"],
        ]}
        onChange={choose}
      />
      {FIELDS.map(([name, label]) => (
        <label key={name}>
          {label}
          <input
            value={texts[name]}
            onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
          />
        </label>
      ))}
      {why && (
        <Trouble role="alert" className="wide">
          {why}
        </Trouble>
      )}
      {found && <Holes found={found} units={units} />}
      <div className="line wide">
        <Button type="submit">Find the holes</Button>
        {found && (
          <Button
            className="main"
            onPress={() => {
              useDesign.getState().edit(placed(document, at(found)));
              drop();
            }}
          >
            Take them
          </Button>
        )}
      </div>
    </Form>
  );
}

function clear() {
  dropPreview();
  useConverging.setState({ point: null, station: null });
}

const at = (found: Schemas["Hole"][]) =>
  Object.fromEntries(found.map((hole) => [`${hole.link}.frame`, hole.at]));

function Holes({ found, units }: { found: Schemas["Hole"][]; units: Units }) {
  return (
    <table className="wide">
      <thead>
        <tr>
          <th scope="col">Link</th>
          <th scope="col">Hole off the floor</th>
          <th scope="col">Center to center</th>
        </tr>
      </thead>
      <tbody>
        {found.map((hole) => (
          <tr key={hole.link}>
            <th scope="row">{words(hole.link)}</th>
            <td>{length(hole.at[2], units)}</td>
            <td>{length(hole.length, units)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
