/** Shapes and outlines of other programs brought in: read, placed and turned on the floor, and only then taken. */

import { useState } from "react";
import { FileTrigger } from "react-aria-components";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import { turnable } from "../../document/solids";
import { useBrought } from "../../state/brought";
import { Button, Choice, Entries, Trouble, Typed } from "../../ui/controls";
import { lengthFigure, readLength, type Units } from "../../units/tape";
import { addKeepOuts, drawnAs } from "./adding";

interface File64 {
  name: string;
  kind: Schemas["BringIn"]["kind"];
  data: string;
}

interface How {
  unit: "mm" | "in";
  along: "x" | "y" | "z";
  ends: [string, string];
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
  const [why, setWhy] = useState<string | null>(null);
  const choose = async (list: FileList | null) => {
    const one = list?.[0];
    if (!one) return;
    const kind = one.name.toLowerCase().endsWith(".dxf") ? "dxf" : "stl";
    setWhy(null);
    useBrought.getState().drop();
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
    useBrought.getState().show(answer.data);
    setFile(null);
  };
  return { file, how, setHow, why, choose, bring };
}

export function Bring({ units }: { units: Units }) {
  const { file, how, setHow, why, choose, bring } = useBringing(units);
  const { shapes, said } = useBrought();
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
      {shapes.length > 0 && <Place units={units} />}
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

const WAYS = ["Moved ahead", "… left (right: −)", "… up"] as const;
const TURNS = ["Rolled, degrees", "Pitched, degrees", "Turned in plan, degrees"] as const;

/** Where it goes: dragged on the floor, or typed; nothing of it is in the design until it is taken. */
function Place({ units }: { units: Units }) {
  const { at, turn, shapes, placed, put, drop } = useBrought();
  const free = turnable(shapes.map((one) => one.solid));
  const [why, setWhy] = useState<string | null>(null);
  const typed = (list: "at" | "turn", n: number, text: string) => {
    const value = list === "at" ? readLength(text, units) : Number(text.replaceAll(/[−–]/g, "-"));
    const bad = typeof value === "string" || !Number.isFinite(value);
    setWhy(bad ? (typeof value === "string" ? value : "A turn is typed in degrees, like 15 or -7.5.") : null);
    if (!bad) put({ [list]: (list === "at" ? at : turn).map((v, i) => (i === n ? value : v)) });
  };
  return (
    <section aria-label="Place what was brought in">
      <h2>Place it</h2>
      <p className="quiet">It is drawn dashed: drag its dot in any view, or type. Then take it.</p>
      <Entries
        aria-label="Where it goes"
        onSubmit={(event) => {
          event.preventDefault();
          addKeepOuts(placed().map(({ name, solid }) => ({ ...drawnAs(solid), name })));
          drop();
        }}
      >
        {WAYS.map(
          (words, n) =>
          <Settled key={words} words={words} value={lengthFigure(at[n]!, units)} onTyped={(text) => typed("at", n, text)} />, // prettier-ignore
        )}
        {TURNS.map(
          (words, n) =>
            free[n] && <Settled key={words} words={words} value={`${turn[n]!}`} onTyped={(text) => typed("turn", n, text)} />, // prettier-ignore
        )}
        <Button type="submit" className="main">
          Take it
        </Button>
        <Button onPress={drop}>Drop it</Button>
        {why !== null && <Trouble role="alert">{why}</Trouble>}
      </Entries>
    </section>
  );
}

/** A figure that follows the hand on the drawing until it is typed into. */
function Settled({
  words,
  value,
  onTyped,
}: {
  words: string;
  value: string;
  onTyped: (text: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  return (
    <div
      onBlur={() => {
        if (text !== null) onTyped(text);
        setText(null);
      }}
    >
      <Typed words={words} value={text ?? value} onChange={setText} />
    </div>
  );
}
