/** Every joint: how far it turns, what it has left, the bolt that keeps the most; the catalog of ends, to be edited. */

import { type SubmitEvent, useState } from "react";

import { type Schemas, server } from "../../api/client";
import { theRegister } from "../../api/register";
import { type Document, rated, spotsOf, withBolt, words } from "../../document/document";
import { mirrorOf, type Spot } from "../../document/document";
import { number } from "../../document/typed";
import { useDraft } from "../../state/drafts";
import { edited, taken } from "../../state/room";
import { toPose } from "../../state/scrub";
import { useAsked } from "../../solve/asking";
import { Button, Choice, Entries, List, Trouble, Typed } from "../../ui/controls";
import { forceUnit, readForce, showForce } from "../../units/forces";
import { length, plain, readLength, type Units } from "../../units/tape";
import type { Shown } from "./Cycle";
import { OnOwnFloor } from "./OnOwnFloor";

type Row = Schemas["JointRow"];

export function Joints(shown: Shown) {
  const { document, units } = shown;
  const key = JSON.stringify(document);
  const asked = useAsked(key, (signal) => server.joints({ document }, signal), 300);
  const [open, setOpen] = useState<string | null>(null);
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  const joints = [...(asked.data?.joints ?? [])].sort((a, b) => a.limit - a.turns - (b.limit - b.turns));
  return (
    <OnOwnFloor
      {...shown}
      help="A joint chosen here is gone to where it turns most. Its bolt is turned in Links by its line."
    >
      {!asked.data && <p role="status">Turning every joint…</p>}
      {asked.data && joints.length === 0 && <p>There is no joint yet, or nothing holds the axle.</p>}
      <List aria-label="Joints, the nearest to its limit first" data-stale={asked.key !== key}>
        {joints.map((one) => (
          <li key={one.name}>
            <button
              type="button"
              className="row"
              aria-expanded={open === one.name}
              data-joint={one.name}
              onClick={() => {
                setOpen(open === one.name ? null : one.name);
                toPose({ travel: one.place.travel ?? 0, articulation: one.place.articulation ?? 0 });
              }}
            >
              <span aria-hidden="true">{one.limit - one.turns < RESERVE_DEG ? "■" : "○"}</span>
              <span>
                {one.words}
                {one.entry === null && <span className="quiet"> not said</span>}
              </span>
              <span className="worth">{plain(one.limit - one.turns, 1)}° left</span>
            </button>
            {open === one.name && <Detail row={one} {...{ document }} softer={asked.data?.softer ?? []} />}
          </li>
        ))}
      </List>
      <Catalog {...{ document, units }} />
    </OnOwnFloor>
  );
}

const RESERVE_DEG = 3;

const kindsOf = (document: Document): (readonly [string, string])[] => {
  const own = Object.entries(document.joints ?? {}).map(
    ([id, kind]) => [id, kind.name || words(id)] as const,
  );
  const named = new Set(own.map(([id]) => id));
  return [
    ...theRegister()
      .joints.filter(({ id }) => !named.has(id))
      .map(({ id, name }) => [id, name] as const),
    ...own,
  ];
};

/** A mount with its end put in its own place of the file, and its mirror image's with it. */
function withEntry(document: Document, name: string, entry: string): Document {
  const spot = spotsOf(document).find((one) => one.name === name);
  if (!spot) return document;
  const copy = structuredClone(document);
  for (const one of [spot, mirrorOf(document, spot)].filter((found): found is Spot => found !== undefined)) {
    const mount = one.path
      .slice(0, -1)
      .reduce<unknown>((v, step) => (v as Record<string, unknown>)[step], copy);
    (mount as { joint?: string }).joint = entry;
  }
  return copy;
}

function Detail({ row, document, softer }: { row: Row; document: Document; softer: Schemas["Softer"][] }) {
  const link = softer.find((one) => row.name.startsWith(`${one.link}.`));
  const spot = spotsOf(document).find((one) => one.name === row.name);
  const gain = row.best_turns === null ? 0 : row.turns - row.best_turns;
  const setBolt = () => {
    const best = row.best as [number, number, number];
    edited((now) => {
      const own = spotsOf(now).find((one) => one.name === row.name);
      const twin = own && mirrorOf(now, own);
      if (!own) return now;
      const turned = withBolt(now, own, best);
      return twin ? withBolt(turned, twin, [best[0], -best[1], best[2]] as never) : turned;
    });
  };
  return (
    <div style={{ padding: "0.25rem 0.5rem 0.5rem" }}>
      <p className="quiet">
        Turns {plain(row.turns, 1)}° of {plain(row.limit, 0)}° at most
        {row.entry === null ? ", a guess: no one has said what joint it is" : ""}.{" "}
        {link &&
          `A softer end goes at the ${link.end}: it turns ${plain(link.turns, 1)}° there and ${plain(link.other, 1)}° at the other end.`}
      </p>
      <div className="line">
        {spot && (
          <Choice
            label="What joint it is"
            placeholder="Joint not said"
            value={row.entry}
            options={kindsOf(document)}
            onChange={(entry) => edited((now) => withEntry(now, row.name, entry))}
          />
        )}
        {spot && row.best && gain > 0.2 && (
          <Button onPress={setBolt}>Turn the bolt: {plain(row.limit - row.best_turns!, 1)}° left</Button>
        )}
      </div>
    </div>
  );
}

/** The catalog of ends: generic ones, replaced or added to for this design. */
function Catalog({ document, units }: { document: Document; units: Units }) {
  const own = Object.entries(document.joints ?? {});
  const generic = theRegister().joints.filter(({ id }) => !own.some(([mine]) => mine === id));
  const row = (
    id: string,
    name: string,
    kind: { limit: number; give: number; rating?: number | null },
    mine = false,
  ) => (
    <tr key={id}>
      <th scope="row">
        {name} {mine && <span className="quiet">(this design’s)</span>}
      </th>
      <td>{plain(kind.limit, 0)}°</td>
      <td>{length(kind.give, units)}</td>
      <td>{kind.rating ? showForce(kind.rating, units) : "not known"}</td>
    </tr>
  );
  return (
    <section aria-label="Catalog of ends">
      <h2>Catalog of ends</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">End</th>
            <th scope="col">Turns</th>
            <th scope="col">Gives</th>
            <th scope="col">Rated for</th>
          </tr>
        </thead>
        <tbody>
          {generic.map((joint) => row(joint.id, joint.name, joint))}
          {own.map(([id, kind]) => row(id, kind.name || words(id), kind, true))}
        </tbody>
      </table>
      <p className="quiet">Common sizes, no maker’s: check your maker’s figure, and put it in here.</p>
      <AddEnd units={units} />
    </section>
  );
}

const NO_END = { name: "", limit: "", give: "", rating: "" };

function AddEnd({ units }: { units: Units }) {
  const [texts, setTexts] = useDraft(`An end, ${units}`, NO_END);
  const [why, setWhy] = useState<string | null>(null);
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const name = texts.name.trim();
    const [limit, give] = [number(texts.limit), readLength(texts.give || "0", units)];
    const rating = texts.rating.trim() === "" ? null : readForce(texts.rating, units);
    if (name === "") {
      setWhy("Give it a name.");
      return;
    }
    if (typeof limit === "string") {
      setWhy(limit);
      return;
    }
    if (typeof give === "string") {
      setWhy(give);
      return;
    }
    if (typeof rating === "string") {
      setWhy(rating);
      return;
    }
    const id = name.toLowerCase().replaceAll(/[^a-z0-9]+/g, "_");
    const refused = await taken((now) => ({
      ...now,
      joints: {
        ...now.joints,
        [id]: rated({ ...now.joints?.[id], name, limit, give }, rating),
      },
    }));
    setWhy(refused);
    if (refused === null) setTexts(NO_END);
  };
  const typed = (key: keyof typeof texts, said: string) => (
    <Typed words={said} value={texts[key]} onChange={(text) => setTexts({ ...texts, [key]: text })} />
  );
  return (
    <>
      <Entries aria-label="Add an end" onSubmit={(event) => void submit(event)}>
        {typed("name", "Called")}
        {typed("limit", "Turns, degrees")}
        {typed("give", "Gives")}
        {typed("rating", `Rated for, ${forceUnit(units)}`)}
        <Button type="submit">Put it in</Button>
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </>
  );
}
