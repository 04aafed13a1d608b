/** What stands at the corners: the list, what can be added, and the figures of the one that is chosen. */

import { useState } from "react";

import { server } from "../../api/client";
import { additionsTo } from "../../api/register";
import {
  barOf,
  isShock,
  isStop,
  sortOf,
  strutOf,
  strutsOf,
  twinOf,
  withSettling,
} from "../../document/corners";
import { bodiesOf, type Document, spotsOf } from "../../document/document";
import { capital } from "../../document/parts";
import { Cures } from "../../panels/Cures";
import { edited } from "../../state/room";
import { RunFigures } from "../../panels/RunFigures";
import { useSelection } from "../../state/selection";
import type { Solved } from "../../state/solver";
import { takeAddition } from "../../state/taking";
import { Button, Choice, Entries, List, Trouble } from "../../ui/controls";
import { rateFigure, rateUnit } from "../../units/forces";
import { increment, length, lengthFigure, readLength, type Units, unitSign } from "../../units/tape";
import { useChosenPart } from "./chosen";
import { SORTS } from "./sorts";

interface Of {
  document: Document;
  units: Units;
  solved: Solved | null;
}

/** A part's size in a few words. */
function sizeWords(document: Document, id: string, units: Units): string {
  const found = strutOf(document, id);
  if (!found) return "";
  const fig = (mm: number) => lengthFigure(mm, units);
  const { strut } = found;
  if (isShock(strut)) {
    const shock = strut;
    const spring = shock.spring ? `, ${rateFigure(shock.spring.rate, units)} ${rateUnit(units)}` : "";
    return `${SORTS[sortOf(shock)]}, ${fig(shock.compressed)} to ${length(shock.extended, units)}${spring}`;
  }
  if (isStop(strut)) return `Bump stop, ${fig(strut.free)} free, ${length(strut.solid, units)} solid`;
  return `Limit strap, ${length(strut.length, units)}`;
}

export function Parts({ document, units, solved }: Of) {
  const part = useChosenPart(document);
  const choose = useSelection((s) => s.choose);
  const [why, setWhy] = useState<string | null>(null);
  const spots = spotsOf(document);
  const pick = (id: string) => {
    const spot = spots.find((one) => one.part === id);
    if (spot) choose(spot.key);
  };
  const rows = rowsOf(document);
  return (
    <section aria-label="Parts">
      {rows.length === 0 && (
        <p>
          No spring, shock, stop or strap is placed yet. Add what you bought: it comes in where there mostly
          is room, of a size for the travel that is asked for, to be moved and sized.
        </p>
      )}
      <List aria-label="Springs, shocks, stops and straps">
        {rows.map(({ id, words, both }) => (
          <li key={id}>
            <button
              type="button"
              className="row wide"
              data-part={id}
              aria-pressed={part === id || (part !== null && part === both)}
              onClick={() => pick(id)}
            >
              <span>{both ? `${words}, and its mirror image` : words}</span>
              <span className="quiet">{sizeWords(document, id, units)}</span>
            </button>
          </li>
        ))}
      </List>
      <div className="line">
        <Choice
          label="Add a pair"
          value={null}
          options={additionsTo("corners")
            .filter(({ id }) => id !== "bar" || !barOf(document))
            .map(({ id, words }) => [id, words] as const)}
          onChange={(what) => void takeAddition(what).then(setWhy)}
        />
      </div>
      {why !== null && <Trouble role="alert">Not added: {why}</Trouble>}
      {part !== null && <Chosen key={part} {...{ document, units, solved, part }} />}
      {document.corners && <Settling {...{ document, units }} />}
    </section>
  );
}

interface Row {
  id: string;
  words: string;
  both: string | null;
}

/** Each pair once, by its left. */
function rowsOf(document: Document): Row[] {
  const rows: Row[] = [];
  const words = (id: string) => capital(bodiesOf(document).find((body) => body.id === id)?.words ?? id);
  for (const found of strutsOf(document)) {
    if (rows.some((row) => row.both === found.strut.id)) continue;
    rows.push({
      id: found.strut.id,
      words: words(found.strut.id),
      both: twinOf(document, found)?.id ?? null,
    });
  }
  if (barOf(document)) rows.push({ id: "anti-roll", words: "Anti-roll bar", both: null });
  return rows;
}

function Chosen({ document, units, solved, part }: Of & { part: string }) {
  const found = strutOf(document, part);
  const of = found ? ({ shocks: "shock", stops: "stop", straps: "strap" } as const)[found.listed] : "bar";
  return (
    <>
      <RunFigures {...{ of, part, solved, units }} />
      {of === "shock" && <Places {...{ document, units, part }} />}
    </>
  );
}

/** Where the shock as it is would go, so that its stroke, the travel and what must be left of it agree. */
function Places({ document, units, part }: Omit<Of, "solved"> & { part: string }) {
  const [asking, setAsking] = useState(false);
  if (!asking)
    return (
      <div className="line">
        <Button onPress={() => setAsking(true)}>Find places for it</Button>
        <span className="quiet">Its stroke and length as typed, for the travel that is asked for.</span>
      </div>
    );
  return (
    <section aria-label="Places for it">
      <h2>Places for it</h2>
      <Cures
        about={["places", document, part, units]}
        ask={(signal) =>
          server.shockPlaces({ document, shock: part, increment: increment(units, "shop"), units }, signal)
        }
        units={units}
        nothing="Wherever it stands on this arm or axle, its stroke is too short for what stops and straps let it be asked for: order a longer one, put it farther in on the arm, or hold the travel closer."
      />
    </section>
  );
}

/** How much lower it stands once all is on it: asked for, so that it is not forgotten. */
function Settling({ document, units }: Omit<Of, "solved">) {
  const said = document.corners?.settling ?? null;
  const [text, setText] = useState<string | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const take = () => {
    if (text === null) return;
    const mm = text.trim() === "" ? null : readLength(text, units);
    if (typeof mm === "string" || (mm !== null && mm < 0)) {
      setWhy(typeof mm === "string" ? mm : "It settles down, not up: type 0 or more.");
      return;
    }
    setWhy(null);
    setText(null);
    edited((now) => withSettling(now, mm));
  };
  return (
    <Entries
      aria-label="Settling"
      style={{ gridTemplateColumns: "1fr" }}
      onSubmit={(event) => {
        event.preventDefault();
        take();
      }}
    >
      <label>
        It settles, once body and load are back on and the springs have been worked, by ({unitSign(units)})
        <input
          value={text ?? (said === null ? "" : lengthFigure(said, units))}
          placeholder="not said: taken as none"
          autoComplete="off"
          onChange={(event) => setText(event.target.value)}
          onBlur={take}
        />
      </label>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </Entries>
  );
}
