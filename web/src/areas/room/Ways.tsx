/** What is in the way: keep-outs listed, typical ones to start from, others brought in from files. */

import { useState } from "react";

import { additionsTo } from "../../api/register";
import type { Document } from "../../document/document";
import { isShared, keepOutsOf, type Draft, type KeepOut } from "../../document/room";
import type { Solid } from "../../document/solids";
import { useRoom } from "../../state/room";
import { takeAddition } from "../../state/taking";
import { Choice, List, Trouble } from "../../ui/controls";
import { length, lengthFigure, type Units } from "../../units/tape";
import { addKeepOuts, drawnAs } from "./adding";
import { Bring } from "./Bring";

const SHAPES: Record<Solid["kind"], string> = { box: "box", tube: "tube", prism: "outline", hull: "hull" };

/** What a keep-out is, in words. */
export function saidOf(
  one: Pick<KeepOut, "id" | "solid" | "on" | "gap"> & { shared?: unknown },
  units: Units,
): string {
  const { solid, on, gap } = one;
  const size = solid.kind === "box" ? ` ${solid.size.map((v) => lengthFigure(v, units)).join(" × ")}` : "";
  return `${SHAPES[solid.kind]}${size}, ${on === "axle" ? "on the axle, " : ""}${isShared(one) ? "the truck’s, " : ""}${length(gap, units)} clear`;
}

const NEW: Record<Exclude<Solid["kind"], "hull">, readonly [string, (document: Document) => Draft]> = {
  box: [
    "A box",
    (document) => drawnAs({ kind: "box", center: over(document), size: [300, 300, 150], turn: [0, 0, 0] }),
  ],
  tube: [
    "A tube",
    (document) => {
      const [x, y, z] = over(document);
      return drawnAs({ kind: "tube", path: [[x - 300, y, z], [x + 300, y, z]], diameter: 60 }); // prettier-ignore
    },
  ],
  prism: [
    "An outline from the side",
    (document) => {
      const [x, , z] = over(document);
      const outline: [number, number][] = [[x - 200, z], [x + 200, z], [x + 200, z + 150], [x - 200, z + 150]]; // prettier-ignore
      return drawnAs({ kind: "prism", along: "y", from: -150, to: 150, outline });
    },
  ],
};

/** Where something new is drawn: above the axle's travel, in sight and in nothing's way. */
function over({ axle, travel }: Document): [number, number, number] {
  return [0, 0, axle.tire_radius_loaded + axle.tire_diameter / 2 + travel.bump];
}

export function Ways({ document, units }: { document: Document; units: Units }) {
  const { chosen, choose } = useRoom();
  const [why, setWhy] = useState<string | null>(null);
  const here = keepOutsOf(document);
  return (
    <section aria-label="What is in the way">
      {here.length === 0 && (
        <p className="quiet">
          Nothing is said yet. Add what stands about the axle: how near everything comes to it is worked out
          through the whole travel and twist, and cures respect it.
        </p>
      )}
      <List aria-label="Keep-outs">
        {here.map((one) => (
          <li key={one.id}>
            <button
              type="button"
              className="row wide"
              aria-pressed={chosen?.list === "keep_outs" && chosen.id === one.id}
              onClick={() => choose({ list: "keep_outs", id: one.id })}
            >
              <span>{one.name || one.id}</span>
              <span className="quiet">{saidOf(one, units)}</span>
            </button>
          </li>
        ))}
      </List>
      <div className="line">
        <Choice
          label="Draw a new one"
          value={null}
          options={Object.entries(NEW).map(([key, [name]]) => [key as keyof typeof NEW, name] as const)}
          onChange={(kind) => addKeepOuts([NEW[kind][1](document)])}
        />
        <Choice
          label="Add a typical one"
          value={null}
          options={additionsTo("room").map(({ id, words }) => [id, words] as const)}
          onChange={(what) => void takeAddition(what).then(setWhy)}
        />
      </div>
      <p className="quiet">Typical ones stand where they mostly are: a guess, until they are measured.</p>
      {why !== null && <Trouble role="alert">Not added: {why}</Trouble>}
      <Bring units={units} />
    </section>
  );
}
