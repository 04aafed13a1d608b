/** What is in the way: keep-outs listed, typical ones to start from, others brought in from files. */

import { useState } from "react";
import { FileTrigger } from "react-aria-components";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { keepOutsOf, TYPICAL, withKeepOut, withTypical, type Draft, type KeepOut } from "../../document/room";
import type { Solid } from "../../document/solids";
import { useDesign } from "../../shell/design";
import { edited, useRoom } from "../../shell/room";
import { Button, Choice, Entries, List, Trouble } from "../../ui/controls";
import { length, lengthFigure, readLength, type Units } from "../../units/tape";

const SHAPES: Record<Solid["kind"], string> = { box: "box", tube: "tube", prism: "outline", hull: "hull" };

/** What a keep-out is, in words. */
export function saidOf({ solid, on, gap }: KeepOut, units: Units): string {
  const size = solid.kind === "box" ? ` ${solid.size.map((v) => lengthFigure(v, units)).join(" × ")}` : "";
  return `${SHAPES[solid.kind]}${size}, ${on === "axle" ? "on the axle, " : ""}${length(gap, units)} clear`;
}

const NEW: Record<Exclude<Solid["kind"], "hull">, readonly [string, (document: Document) => Draft]> = {
  box: [
    "A box",
    (document) => drawn({ kind: "box", center: over(document), size: [300, 300, 150], turn: [0, 0, 0] }),
  ],
  tube: [
    "A tube",
    (document) => {
      const [x, y, z] = over(document);
      return drawn({ kind: "tube", path: [[x - 300, y, z], [x + 300, y, z]], diameter: 60 }); // prettier-ignore
    },
  ],
  prism: [
    "An outline from the side",
    (document) => {
      const [x, , z] = over(document);
      const outline: [number, number][] = [[x - 200, z], [x + 200, z], [x + 200, z + 150], [x - 200, z + 150]]; // prettier-ignore
      return drawn({ kind: "prism", along: "y", from: -150, to: 150, outline });
    },
  ],
};

const drawn = (solid: Solid): Draft => ({ name: "New", on: "frame", gap: 25, except: [], solid });

/** Where something new is drawn: above the axle's travel, in sight and in nothing's way. */
function over({ axle, travel }: Document): [number, number, number] {
  return [0, 0, axle.tire_radius_loaded + axle.tire_diameter / 2 + travel.bump];
}

/** Add keep-outs and choose the last of them. */
function add(drafts: readonly Draft[]): void {
  edited((now) => drafts.reduce(withKeepOut, now));
  const { document } = useDesign.getState();
  const last = document && keepOutsOf(document).at(-1);
  if (last) useRoom.getState().choose({ list: "keep_outs", id: last.id });
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
          onChange={(kind) => add([NEW[kind][1](document)])}
        />
        <Choice
          label="Add a typical one"
          value={null}
          options={Object.entries(TYPICAL).map(([key, [name]]) => [key, name] as const)}
          onChange={(which) => {
            const had = withTypical(document, which);
            setWhy(had ? null : "The truck’s rails are not known yet: set them under Truck.");
            if (had) edited((now) => withTypical(now, which) ?? now);
          }}
        />
      </div>
      <p className="quiet">Typical ones stand where they mostly are: a guess, until they are measured.</p>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      <Bring units={units} />
    </section>
  );
}

interface File64 {
  name: string;
  kind: Schemas["BringIn"]["kind"];
  data: string;
}

const read64 = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve((reader.result as string).split(",")[1] ?? "");
    reader.onerror = () => reject(new Error("unreadable"));
    reader.readAsDataURL(file);
  });

const AXES = [
  ["y", "Drawn from the side, out across"],
  ["x", "Drawn from behind, out fore-aft"],
  ["z", "Drawn from above, out upward"],
] as const;

/** What is being brought in, and what came of it. */
function useBringing(units: Units) {
  const [file, setFile] = useState<File64 | null>(null);
  const [how, setHow] = useState<How>({ unit: units === "mm" ? "mm" : "in", along: "y", ends: ["", ""] });
  const [said, setSaid] = useState<readonly string[]>([]);
  const [why, setWhy] = useState<string | null>(null);
  const choose = async (list: FileList | null) => {
    const one = list?.[0];
    if (!one) return;
    const kind = one.name.toLowerCase().endsWith(".dxf") ? "dxf" : "stl";
    setWhy(null);
    setSaid([]);
    setFile({ name: one.name.replace(/\.\w+$/, ""), kind, data: await read64(one) });
  };
  const bring = async () => {
    if (!file) return;
    const [start, end] = file.kind === "dxf" ? how.ends.map((text) => readLength(text, units)) : [0, 0];
    if (typeof start !== "number" || typeof end !== "number") {
      setWhy(`Drawn out from, to: ${String(typeof start === "string" ? start : end)}`);
      return;
    }
    const { unit, along } = how;
    const answer = await server.bring({ ...file, unit, along, start, end }).catch(() => null);
    if (!answer?.data) {
      setWhy(answer ? reasonOf(answer.error) : NO_SERVER);
      return;
    }
    add(answer.data.shapes.map(({ name, solid }) => ({ ...drawn(solid), name })));
    setSaid(answer.data.said);
    setFile(null);
  };
  return { file, how, setHow, said, why, choose, bring };
}

interface How {
  unit: "mm" | "in";
  along: "x" | "y" | "z";
  ends: [string, string];
}

/** A shape or outlines of another program, as keep-outs. */
function Bring({ units }: { units: Units }) {
  const { file, how, setHow, said, why, choose, bring } = useBringing(units);
  return (
    <>
      <div className="line">
        <FileTrigger acceptedFileTypes={[".stl", ".dxf"]} onSelect={(list) => void choose(list)}>
          <Button>Bring in STL or DXF</Button>
        </FileTrigger>
      </div>
      {file && (
        <Entries
          aria-label={`Bring in ${file.name}`}
          onSubmit={(event) => {
            event.preventDefault();
            void bring();
          }}
        >
          <span>{file.name}</span>
          <Choice
            label="Its unit"
            value={how.unit}
            options={[
              ["mm", "In millimeters"],
              ["in", "In inches"],
            ]}
            onChange={(unit) => setHow({ ...how, unit })}
          />
          {file.kind === "dxf" && <DrawnOut {...{ how, setHow }} />}
          <Button type="submit" className="main">
            Bring it in
          </Button>
        </Entries>
      )}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      {said.length > 0 && <p role="status">{said.join(" ")}</p>}
    </>
  );
}

/** How outlines become solids. */
function DrawnOut({ how, setHow }: { how: How; setHow: (how: How) => void }) {
  const ends = ["Drawn out from", "… to"] as const;
  return (
    <>
      <Choice
        label="Drawn from"
        value={how.along}
        options={AXES}
        onChange={(along) => setHow({ ...how, along })}
      />
      {ends.map((words, n) => (
        <label key={words}>
          {words}
          <input
            value={how.ends[n]}
            autoComplete="off"
            onChange={(event) => {
              const [from, to] = how.ends;
              setHow({ ...how, ends: n === 0 ? [event.target.value, to] : [from, event.target.value] });
            }}
          />
        </label>
      ))}
    </>
  );
}
