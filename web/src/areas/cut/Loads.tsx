/** Load cases, and how every part stands up to them. */

import { useState } from "react";

import { type Schemas, server } from "../../api/client";
import { type Document, words } from "../../document/document";
import { capital } from "../../document/parts";
import { type Field, number, numeric } from "../../document/typed";
import { Mark } from "../../figures/Severity";
import { EditorBox } from "../../panels/EditorBox";
import { OpeningRow } from "../../panels/OpeningRow";
import { Sizes } from "../../panels/Sizes";
import { useCatalog } from "../../state/catalog";
import { useCase } from "../../state/case";
import { edited, useTaking } from "../../state/room";
import { toPose } from "../../state/scrub";
import { useAsked } from "../../solve/asking";
import { Button, Choice, List, Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { showForce } from "../../units/forces";
import { inUnits, length, plain, type Units } from "../../units/tape";
import type { Shown } from "./CutSheet";
import { type Case, caseOf, useLoads } from "./forces";
import { Landings } from "./Landings";
import { mass } from "./said";
import { withTube } from "./making";
import { OwnCases } from "./OwnCases";

type Part = Schemas["PartLoads"];
type Factored = Part["factors"][number];

export function Loads({ document, units }: Shown) {
  const { key, asked } = useLoads(document, true);
  const id = useCase((s) => s.id);
  const found = asked.data;
  const shown = caseOf(found, id);
  return (
    <section aria-label="Loads" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!found && asked.state === "asking" && <p role="status">Working the loads out…</p>}
      {found && shown && (
        <>
          <Parts parts={found.parts} {...{ document, units }} />
          <Choice
            label="Load case drawn"
            value={shown.id}
            options={found.cases.map((one) => [one.id, capital(one.words)] as const)}
            onChange={(chosen) => {
              useCase.setState({ id: chosen });
              const { travel, articulation } = caseOf(found, chosen)!;
              toPose({ travel, articulation });
            }}
          />
          <Carried shown={shown} {...{ document, units }} />
          <Landings landings={found.landings} prompts={found.prompts} units={units} />
        </>
      )}
      <Rests document={document} />
      {found && (
        <OwnCases
          key={`${standingOn(found.cases)}`}
          {...{ document, units }}
          standing={standingOn(found.cases)}
        />
      )}
    </section>
  );
}

/** What a tire stands on the ground with, N. */
const standingOn = (cases: readonly Case[]): number | null =>
  cases.find(({ id }) => id === "static")?.pushes.find(({ part }) => part === "tire-left")?.force[2] ?? null;

const short = ({ factor, wanted }: Factored) => (factor === null ? Infinity : factor / wanted);

function Parts({ parts, document, units }: { parts: Part[]; document: Document; units: Units }) {
  const [open, setOpen] = useState<string | null>(null);
  if (parts.length === 0)
    return <p>Nothing balances in any case: there is no part yet, or nothing holds the axle.</p>;
  return (
    <List aria-label="Parts, the gravest first">
      {parts.map((one) => {
        const [worst] = [...one.factors].sort((a, b) => short(a) - short(b));
        return (
          <OpeningRow
            key={one.part}
            of="part"
            id={one.part}
            mark={<Mark severity={one.severity} />}
            name={
              <>
                {capital(one.words)}
                {worst?.factor != null && <span className="quiet"> {worst.case_words}</span>}
              </>
            }
            worth={worst?.factor == null ? "–" : plain(worst.factor, 1)}
            open={open === one.part}
            onPress={() => setOpen(open === one.part ? null : one.part)}
          >
            <Detail part={one} {...{ document, units }} />
          </OpeningRow>
        );
      })}
    </List>
  );
}

function Detail({ part, document, units }: { part: Part; document: Document; units: Units }) {
  const known = part.factors.filter(({ factor }) => factor !== null);
  const missing = part.factors.flatMap(({ look_up }) => look_up ?? []);
  const weak = known.some(
    ({ what, severity }) => ["yield", "buckling", "rock"].includes(what) && severity !== "good",
  );
  return (
    <>
      <FigureSection
        title={capital(part.words)}
        head={["", "Factor", "Wanted", "In"]}
        rows={known.map((one) => [
          capital(one.words),
          <span key="f" className={one.severity === "good" ? "" : "bad"}>
            {plain(one.factor!, 2)}
          </span>,
          plain(one.wanted, 2),
          one.case_words,
        ])}
      >
        {part.guessed.length > 0 && (
          <p className="quiet">{capital(inUnits(part.guessed.join("; "), units))}.</p>
        )}
        {missing.length > 0 && <p className="quiet">Not looked at. Look up: {missing.join("; ")}.</p>}
      </FigureSection>
      {weak && <Lighter part={part.part} {...{ document, units }} />}
    </>
  );
}

/** The lightest tube that would meet every case, worked out when it is asked for. */
function Lighter({ part, document, units }: { part: string; document: Document; units: Units }) {
  const kept = useCatalog((s) => s.shop?.tubes);
  const tubes = kept && kept.length > 0 ? kept.map(({ diameter, wall }) => ({ diameter, wall })) : null;
  const whose = tubes ? "tube of the shop’s catalog, of this part’s steel," : "common tube of its steel";
  const key = JSON.stringify([document, part, tubes]);
  const asked = useAsked<Schemas["Holds"] | null>(key, (signal) =>
    server.tubeThatHolds({ document, part, tubes }, signal),
  );
  if (asked.key !== key) return <p role="status">Trying tubes…</p>;
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  const found = asked.data;
  if (!found) return <p>No {whose} meets every case as this part is loaded; give it less to carry.</p>;
  const more = found.mass >= 0 ? "heavier" : "lighter";
  return (
    <p>
      {length(found.diameter, units)} by {length(found.wall, units)} meets every case:{" "}
      {plain(found.factor, 2)} {found.case_words}, {plain(found.wanted, 2)} wanted;{" "}
      {mass(Math.abs(found.mass), units)} {more} each.{" "}
      {Math.abs(found.nearer) > 0.05 &&
        `What is beside it comes ${length(Math.abs(found.nearer), units)} ${found.nearer > 0 ? "nearer" : "less near"}. `}
      <Button
        onPress={() => edited((now) => withTube(now, part, { diameter: found.diameter, wall: found.wall }))}
      >
        Take that tube, and for its mirror image
      </Button>
    </p>
  );
}

function Carried({ shown, document, units }: { shown: Case; document: Document; units: Units }) {
  if (!shown.balanced)
    return <p>Nothing balances here: the pose is not reached, or what would hold it is missing.</p>;
  const joints = shown.pushes.filter(({ part }) => !/^(tire|spring)-/.test(part));
  const pulls = Object.entries(shown.springs ?? {}).filter(([, force]) => force < 0);
  return (
    <FigureSection
      title={capital(shown.words)}
      head={["", "At the axle", "At the frame"]}
      rows={[...new Set(joints.map(({ part }) => part))].map((part) => [
        capital(partWords(document, part)),
        said(shown, part, "axle", units),
        said(shown, part, "frame", units),
      ])}
    >
      <p className="quiet">
        Springs {showForce(shown.springs!["left"]!, units)} left, {showForce(shown.springs!["right"]!, units)}{" "}
        right
        {shown.abuse ? "; abuse: 1.25 is wanted" : ""}.
        {pulls.length > 0 && " A strap or a shock would have to pull there."}
        {(shown.bind ?? 0) > 0.01 &&
          ` The links give ${length(shown.bind!, units)} there, which no force here counts.`}
      </p>
    </FigureSection>
  );
}

const partWords = (document: Document, part: string): string =>
  document.links.some(({ id }) => id === part) ? words(part) : words(part).toLowerCase();

/** The whole force at an end, and whether the bar is pulled or pressed there. */
function said({ pushes }: Case, part: string, on: string, units: Units): string {
  const one = pushes.find((push) => push.part === part && push.on === on);
  if (!one) return "";
  const other = pushes.find((push) => push.part === part && push.on !== on);
  const size = showForce(Math.hypot(...one.force), units);
  if (!other) return size;
  const along = one.force.reduce((sum, v, i) => sum + v * (other.at[i]! - one.at[i]!), 0);
  return `${size}, ${along >= 0 ? "pulled" : "pressed"}`;
}

type Factors = NonNullable<Document["loads"]>;
const HOUSE: Record<string, number> = {
  grip: 0.9,
  grip_side: 0.8,
  landing: 3,
  strike: 2,
  rock: 1,
  weld: 0.7,
};
const NAMES = [
  ["grip", "Grip fore-aft"],
  ["grip_side", "Grip sideways"],
  ["landing", "Landing, times the axle’s weight"],
  ["strike", "Strike, times a wheel’s weight"],
  ["rock", "On a rock, times a wheel’s weight"],
  ["weld", "Weld, of its plate’s yield in shear"],
] as const;

/** What the cases rest on: the house’s until somebody says. */
function Rests({ document }: { document: Document }) {
  const { why, setWhy, take } = useTaking();
  const now = { ...HOUSE, ...document.loads } as Record<string, number>;
  const fields: Field<Factors>[] = NAMES.map(([key, name]) =>
    numeric(key, (document.loads as Record<string, unknown> | null)?.[key] === undefined ? `${name} (guessed)` : name,
      plain(now[key]!, 2), number, (part, value) => ({ ...part, [key]: value })),
  ); // prettier-ignore
  return (
    <EditorBox>
      <h2>What the cases rest on</h2>
      <Sizes
        of="all cases"
        label="What the cases rest on"
        submit="Take these"
        fields={fields}
        part={document.loads ?? ({} as Factors)}
        onWhy={setWhy}
        onTake={(loads) => take((one) => ({ ...one, loads }))}
      />
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      <p className="quiet">
        Stops, straps, dampers and an anti-roll bar carry nothing in these sums. An estimate from the figures
        entered, not an approval. Have the design and the welds checked by a qualified engineer or inspector.
      </p>
    </EditorBox>
  );
}
