/** Find places for all mounts at once: sought for a while, shown as they are found, looked at, taken. */

import { type SubmitEvent, useEffect, useState } from "react";
import { useNavigate } from "react-router";

import { reasonOf, type Schemas } from "../../api/client";
import { figureOf } from "../../api/register";
import type { Document } from "../../document/document";
import { capital } from "../../document/parts";
import { nameOf, QUANTITIES, show } from "../../figures/readings";
import { dropPreview, preview, takePreview } from "../../state/behind";
import { useDraft } from "../../state/drafts";
import { making } from "../../state/making";
import { stockFile, useStock } from "../../state/stock";
import { useWork } from "../../state/work";
import { Button, Entries, Toggle, Trouble, Typed } from "../../ui/controls";
import { increment, length, readLength, type Units } from "../../units/tape";
import { Going } from "./Holes";
import type { Shown } from "./Weigh";

type Search = Schemas["Search"];
type Found = Schemas["Found"];
type Excluded = Schemas["Excluded"];

const SECONDS = 20;
const TAPE_MM = 1.5875;

export function Finder({ id, document, units }: Shown) {
  const work = useWork<Search>("find", id);
  const of = JSON.stringify(document);
  const search = work.soFar?.result ?? null;
  const going = work.soFar?.state === "going" || work.soFar?.state === "waiting";
  const over = work.soFar?.state === "done";
  useEffect(() => dropPreview, []);
  return (
    <section aria-label="Find places" aria-busy={going}>
      <p className="quiet">
        Looks over zones, holes and locks for places where nothing is a stop or a fix, no gap is too small,
        and the most is left on every band after the tape’s error. A mount without a zone goes no farther than
        6 in (150 mm) from where it stands.
      </p>
      <Asks
        {...{ units }}
        onGo={({ inStock, ...asked }) =>
          work.begin(of, {
            document,
            increment: increment(units, "shop"),
            seconds: SECONDS,
            ...asked,
            ...(inStock ? { stock: stockFile(document, useStock.getState().stock) } : {}),
          })
        }
      />
      {going && (
        <>
          <Going share={work.soFar!.share} />
          <div className="line">
            <span role="status">
              {search ? `${search.tried} places tried, ${search.judged} judged in full` : "Beginning…"}
            </span>
            <Button onPress={work.end}>Stop looking</Button>
          </div>
        </>
      )}
      {work.trouble && <Trouble role="alert">{work.trouble}</Trouble>}
      {search && work.of !== of && <p role="status">The design was changed since: these are of before.</p>}
      {search && search.found.length > 0 && <Finds {...{ id, search, units }} />}
      {over && search?.excluded && <Nothing why={search.excluded} units={units} />}
    </section>
  );
}

interface Asked {
  longest?: number;
  shortest?: number;
  error?: number;
  seed: number;
  /** Only bars that can all be cut from the tubes that this shop has. */
  inStock: boolean;
}

/** Whether bars must come out of the tubes that stand under Cut sheet, To the shop. */
function InStock(props: { units: Units; inStock: boolean; onChange: (on: boolean) => void }) {
  const { units, inStock, onChange } = props;
  const { tube, tubes } = useStock((s) => s.stock);
  return (
    <div style={{ gridColumn: "1 / -1" }}>
      <Toggle isSelected={inStock} onChange={onChange}>
        Only from the tubes in stock
      </Toggle>
      {inStock && (
        <p className="quiet">
          {tubes} of each size, {length(tube, units)} long, as said under Cut sheet, To the shop.
        </p>
      )}
    </div>
  );
}

/** The longest and the shortest link, the tape’s error, and where the search begins. */
function Asks({ units, onGo }: { units: Units; onGo: (asked: Asked) => void }) {
  const [longest, setLongest] = useState("");
  const [shortest, setShortest] = useState("");
  const [error, setError] = useState(length(TAPE_MM, units));
  const [seed, setSeed] = useState("1");
  const [inStock, setInStock] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    const asked: Asked = { seed: Number(seed), inStock };
    let wrong: string | null = null;
    for (const [name, text] of [
      ["longest", longest],
      ["shortest", shortest],
      ["error", error],
    ] as const) {
      // prettier-ignore
      if (text.trim() === "") continue;
      const mm = readLength(text, units);
      if (typeof mm === "string") wrong = `The ${name}: ${mm}`;
      else asked[name] = mm;
    }
    if (!/^\d{1,9}$/.test(seed)) wrong = "The seed is a whole number, 0 or more.";
    setWhy(wrong);
    if (wrong === null) onGo(asked);
  };
  return (
    <Entries onSubmit={submit} aria-label="What is looked for">
      <Typed words="No link longer than" value={longest} onChange={setLongest} />
      <Typed words="No link shorter than" value={shortest} onChange={setShortest} />
      <Typed words="Tape’s error" value={error} onChange={setError} />
      <Typed words="Seed: the same finds the same" value={seed} onChange={setSeed} />
      <InStock {...{ units, inStock }} onChange={setInStock} />
      {why && (
        <Trouble role="alert" style={{ gridColumn: "1 / -1" }}>
          {why}
        </Trouble>
      )}
      <Button type="submit" className="main">
        Look for places
      </Button>
    </Entries>
  );
}

function Finds({ id, search, units }: { id: number; search: Search; units: Units }) {
  const [shown, setShown] = useState<number | null>(null);
  return (
    <ul
      aria-label="Places found, the most left over first"
      style={{ listStyle: "none", margin: 0, padding: 0 }}
    >
      {search.found.map((one, n) => (
        <li
          key={JSON.stringify(one.at)}
          style={{ borderBottom: "1px solid var(--hair)", padding: "0.375rem 0" }}
        >
          <Find {...{ id, one, n, units }} shown={shown === n} setShown={setShown} />
        </li>
      ))}
    </ul>
  );
}

const MAIN = ["anti_squat", "ic_length", "roll_center", "pinion_change", "rear_steer"] as const;

function Find(props: {
  id: number;
  one: Found;
  n: number;
  units: Units;
  shown: boolean;
  setShown: (n: number | null) => void;
}) {
  const { id, one, n, units, shown, setShown } = props;
  const name = `Place ${n + 1}`;
  const figures = MAIN.filter((figure) => one.figures[figure] !== undefined).map(
    (figure) => `${nameOf(figure).toLowerCase()} ${showFigure(figure, one.figures[figure], units)}`,
  );
  return (
    <>
      <div className="place" style={{ border: 0 }}>
        <strong>{name}</strong>
        {shown ? (
          <span className="line">
            <Button className="main" autoFocus onPress={takePreview}>
              Take it
            </Button>
            <Button
              onPress={() => {
                dropPreview();
                setShown(null);
              }}
            >
              Drop it
            </Button>
          </span>
        ) : (
          <Button
            aria-label={`Look at it: place ${n + 1}`}
            onPress={() => {
              preview(name, one.document as unknown as Document);
              setShown(n);
            }}
          >
            Look at it
          </Button>
        )}
      </div>
      <p className="quiet">
        {Math.round(100 * one.reserve)} % of half a band left where it is least
        {one.tightest && `, on ${nameOf(one.tightest).toLowerCase()}`}. {figures.join(", ")}.
      </p>
      <GivesUp {...{ one, units }} />
      {one.considers.length > 0 && <p className="quiet">To consider: {one.considers.join("; ")}.</p>}
      {one.weak.length > 0 && <p>Then wants stronger steel: {one.weak.join("; ")}.</p>}
      {shown && <AsAlternative {...{ id, name }} />}
    </>
  );
}

function GivesUp({ one, units }: { one: Found; units: Units }) {
  const said = one.gives_up
    .slice(0, 3)
    .map(
      ({ figure, value, other, of }) =>
        `${nameOf(figure).toLowerCase()} ${showFigure(figure, value, units)}, where place ${of + 1} has ${showFigure(figure, other, units)}`,
    );
  return said.length > 0 && <p className="quiet">Gives up: {said.join("; ")}.</p>;
}

const showFigure = (id: string, value: number | null | undefined, units: Units): string =>
  show(value, QUANTITIES[figureOf(id)?.unit ?? "mm"], units);

/** Taken as another design beside this one, with its reason. */
function AsAlternative({ id, name }: { id: number; name: string }) {
  const go = useNavigate();
  const [why, setWhy] = useDraft("why it is kept beside", "");
  const [trouble, setTrouble] = useState<string | null>(null);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const { data, error } = await making.addAlternative(id, { name, why });
    if (!data) {
      setTrouble(reasonOf(error));
      return;
    }
    setWhy("");
    takePreview();
    await go(`/designs/${data.design}/weigh`);
  };
  return (
    <Entries onSubmit={(event) => void submit(event)} aria-label="As it is now kept beside it">
      <Typed words="Keep the design as it is now as another one; why" value={why} onChange={setWhy} />
      <Button type="submit">Keep that, take this</Button>
      {trouble && <Trouble role="alert">{trouble}</Trouble>}
    </Entries>
  );
}

const WAYS: Record<string, readonly [string, string]> = {
  x: ["forward", "back"],
  y: ["to the left", "to the right"],
  z: ["up", "down"],
};

/** Why there is nothing, and what would have to give. */
function Nothing({ why, units }: { why: Excluded; units: Units }) {
  return (
    <div role="status">
      <h2>Nothing fits</h2>
      {why.unbuildable && (
        <p>
          No place that was tried can be built: tubes, housing, tires, rails, zones or lengths are in the way.
        </p>
      )}
      {why.misses.length === 2 && <p>Of all places tried none met both of these:</p>}
      <ul>
        {why.misses.map((miss) => (
          <li key={miss.figure}>
            {capital(nameOf(miss.figure))}
            {miss.holding && ` with ${nameOf(miss.holding).toLowerCase()} in its band`}:{" "}
            {showFigure(miss.figure, miss.value, units)} at the nearest, where{" "}
            {showFigure(miss.figure, miss.edge, units)} is wanted.
          </li>
        ))}
        {why.gives.map((one) => (
          <li key={`${one.mounts.join()} ${one.axis}`}>
            {capital(nameOf(one.figure))} would come inside with {length(Math.abs(one.by), units)} more room{" "}
            {(WAYS[one.axis] ?? ["", ""])[one.by > 0 ? 0 : 1]} for{" "}
            {one.mounts.join(" and ").replaceAll("-", " ").replaceAll(".", ", ")}.
          </li>
        ))}
        {why.against.map((words) => (
          <li key={words}>Against places whose figures were sound: {words}.</li>
        ))}
      </ul>
    </div>
  );
}
