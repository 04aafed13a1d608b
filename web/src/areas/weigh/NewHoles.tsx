/** Where in each row one more hole would put the middle of the window, and whether there is metal for it. */

import { type Schemas, server } from "../../api/client";
import { type Document, placed } from "../../document/document";
import { capital } from "../../document/parts";
import { nameOf, show } from "../../figures/readings";
import { useAsked } from "../../solve/asking";
import { dropPreview, preview, takePreview, useBehind } from "../../state/behind";
import { Button, Trouble } from "../../ui/controls";
import { length, type Units } from "../../units/tape";
import { type Site, siteWords, unitOf } from "./Holes";

type Answer = Schemas["NewHolesOut"];
type NewHole = Schemas["NewHole"];
type HoleAt = Schemas["HoleAt"];

interface Given {
  sites: readonly Site[];
  document: Document;
  units: Units;
}

export function NewHoles({ sites, document, units }: Given) {
  const key = JSON.stringify(document);
  const asked = useAsked<Answer>(key, (signal) => server.newHoles({ document }, signal), 300);
  const stale = asked.key !== key;
  return (
    <section aria-label="One more hole" aria-busy={stale}>
      <h2>One more hole</h2>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!asked.data && asked.state === "asking" && <p role="status">Looking along the rows…</p>}
      {asked.data && !stale && asked.data.holes.length === 0 && (
        <p className="quiet">No row has two holes, or no figure of the window has a band: nothing to look along.</p>
      )}
      {asked.data &&
        !stale &&
        asked.data.holes.map((one) => (
          <OfRow key={one.site} {...{ one, document, units }} site={sites[one.site]!} bolts={asked.data!.edge} />
        ))}
    </section>
  ); // prettier-ignore
}

const figures = (set: HoleAt["set"], units: Units): string =>
  (["anti_squat", "ic_length"] as const)
    .map((id) => `${nameOf(id).toLowerCase()} ${show(set[id] as number | null, unitOf(id), units)}`)
    .join(", ");

/** "between holes 2 and 3, 3/4 in from hole 2". */
function where(at: HoleAt, units: Units): string {
  const from = `${length(at.from_before, units)} from hole ${at.before + 1}`;
  if (at.after === null) return `past hole ${at.before + 1}, ${from}`;
  return `between holes ${at.before + 1} and ${at.after + 1}, ${from}`;
}

function OfRow({ one, site, document, units, bolts }: Omit<Given, "sites"> & { one: NewHole; site: Site; bolts: number }) {
  const words = siteWords(document, site);
  const { middle, drilled, best } = one;
  const now = best === null ? "" : ` Hole ${best + 1} comes nearest now: ${figures(one.best_set!, units)}.`;
  if (middle === null)
    return (
      <p>
        <strong>{words}:</strong> no place along the row is nearer to the middle of the window than its own holes.{now}
      </p>
    );
  return (
    <div role="group" aria-label={words}>
      <p>
        <strong>{words}:</strong> nearest to the middle of the window {where(middle, units)}: {figures(middle.set, units)}.
        {now} {metalSaid(one, middle, units, bolts)}
      </p>
      {drilled && !same(drilled, middle) && (
        <p>
          With metal for it, {where(drilled, units)}: {figures(drilled.set, units)}.
        </p>
      )}
      {drilled && one.against.length > 0 && (
        <p>
          <strong>Against it:</strong> {one.against.join("; ")}.
        </p>
      )}
      <Looking {...{ one, site, document, words }} />
    </div>
  );
} // prettier-ignore

const same = (one: HoleAt, other: HoleAt) => one.at.join() === other.at.join();

/** Whether a hole can be drilled in the window's middle, and what is in the way. */
function metalSaid(one: NewHole, middle: HoleAt, units: Units, bolts: number): string {
  if (one.edge === null || middle.metal === null)
    return "How thick its bolt is nobody has said, so whether there is metal for it can’t be told: say it under Links, at the joint.";
  const wanted = `${bolts} bolts, ${length(one.edge, units)}, are wanted from its center`;
  const lacks: string[] = [];
  if (middle.metal < one.edge) lacks.push(`to the next hole’s edge, where there ${are(middle.metal, units)}`);
  if (middle.plate !== null && middle.plate < one.edge)
    lacks.push(middle.plate < 0 ? "to the plate’s edge, and it lies off the plate" : `to the plate’s edge, where there ${are(middle.plate, units)}`); // prettier-ignore
  if (lacks.length > 0)
    return `${capital(wanted)} ${lacks.join(" and ")}.${one.drilled ? "" : " No other place with metal for it is nearer than the holes that are there."}`;
  const plate = middle.plate === null ? "; its plate is not drawn" : `, ${length(middle.plate, units)} to the plate’s edge`; // prettier-ignore
  return `There is metal for it: ${length(middle.metal, units)} to the next hole’s edge${plate}.`;
}

const are = (mm: number, units: Units) => (mm <= 0 ? "is none" : `are ${length(mm, units)}`);

function Looking(props: { one: NewHole; site: Site; document: Document; words: string }) {
  const { one, site, document, words } = props;
  const name = `${words} in a new hole`;
  const looked = useBehind((s) => s.behind?.kind === "preview" && s.behind.name === name);
  if (looked)
    return (
      <div className="line">
        {one.design && (
          <Button className="main" onPress={takePreview}>
            Drill it there
          </Button>
        )}
        <Button onPress={dropPreview}>Drop it</Button>
      </div>
    );
  const there = (one.design as Document | null) ?? inNewHole(document, site, one.middle!.at);
  return (
    <Button aria-label={`Look at it: ${name}`} onPress={() => preview(name, there)}>
      Look at it
    </Button>
  );
}

/** Its mounts in a hole that is not in the row. */
const inNewHole = (document: Document, site: Site, [x, y, z]: readonly number[]): Document =>
  placed(document, Object.fromEntries(
    site.mounts.map((mount) => [mount, mount === site.left ? [x!, y!, z!] : [x!, -y!, z!]]),
  )); // prettier-ignore
