/** What was built: where the axle stands, what to correct, mounts off their places, and bars to be turned. */

import type { Schemas } from "../../api/client";
import { type Document, words } from "../../document/document";
import { type Quantity, show } from "../../figures/readings";
import { Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { length, plain, type Units } from "../../units/tape";
import { useFit } from "./built";
import type { Shown } from "./FitUp";
import { capital } from "../../document/parts";
import { mountName, PLACES, standsSaid, turnsSaid } from "./said";

type Fit = Schemas["FitOut"];
type Correction = Fit["corrections"]["offered"][number];

export function AsBuilt({ document, truck, units }: Shown) {
  const { key, asked } = useFit(document, truck);
  const found = asked.data;
  return (
    <section aria-label="As built" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!found && asked.state === "asking" && <p role="status">Fitting the readings…</p>}
      {found && (
        <>
          <Stands {...{ found, units }} />
          <Correct {...{ document, found, units }} />
          <Does {...{ found, units }} />
          <Bars {...{ found, units }} />
          <Mounts {...{ document, found, units }} />
        </>
      )}
    </section>
  );
}

function Stands({ found, units }: { found: Fit; units: Units }) {
  const { stands, within } = found.corrections;
  if (!stands)
    return (
      <p>With those mounts and lengths the axle cannot come to where it would stand, or nothing holds it.</p>
    );
  return (
    <FigureSection
      title="With what is tacked, at ride"
      head={["", "Stands", "Within"]}
      rows={Object.entries(stands).map(([figure, value]) => [
        PLACES[figure],
        <span key="v" className={Math.abs(value) > within[figure]! ? "bad" : ""}>
          {standsSaid(figure, value, units)}
        </span>,
        figure.startsWith("axle") ? length(within[figure]!, units) : `${plain(within[figure]!, 1)}°`,
      ])}
    />
  ); // prettier-ignore
}

function Correct({ document, found, units }: { document: Document; found: Fit; units: Units }) {
  const { stands, inside, offered } = found.corrections;
  if (!stands) return null;
  const read = found.mounts.some(({ measured }) => measured);
  if (inside)
    return (
      <p>
        {read ? "Nothing to correct: inside its tolerance." : "Nothing was read yet: this is the design."}
      </p>
    );
  if (offered.length === 0)
    return (
      <p>
        Neither turning what has a thread nor moving one or two brackets brings it nearer. Read again, or move
        more.
      </p>
    );
  return (
    <section aria-label="What to correct">
      <h2>What to correct</h2>
      <ol>
        {offered.map((one, n) => (
          <li key={n}>
            <strong>{doSaid(document, one, units)}</strong> Then: {thenSaid(one, units)}.{" "}
            {one.inside
              ? one.sure
                ? "Inside every tolerance, even if what was read is off by two sigma."
                : "Inside every tolerance by what was read; read on to be sure."
              : "That is nearer, and not inside yet."}
          </li>
        ))}
      </ol>
    </section>
  ); // prettier-ignore
}

function doSaid(document: Document, { turns, moves }: Correction, units: Units): string {
  const turned = Object.entries(turns).map(([bar, by]) => `${words(bar)} ${turnsSaid(by)}`);
  const moved = Object.entries(moves).map(
    ([mount, by]) => `Move ${mountName(document, mount)} ${wayOf(by, units)}`,
  );
  return `${[...turned, ...moved].join("; ")}.`;
}

const WAYS = [
  ["forward", "back"],
  ["left", "right"],
  ["up", "down"],
] as const;

const wayOf = (by: readonly number[], units: Units): string =>
  by
    .flatMap((mm, axis) =>
      Math.abs(mm) < 0.75 ? [] : [`${length(Math.abs(mm), units)} ${WAYS[axis]![mm > 0 ? 0 : 1]}`],
    )
    .join(", ");

const thenSaid = ({ then }: Correction, units: Units): string =>
  Object.entries(then)
    .map(([figure, value]) => `${PLACES[figure]!.toLowerCase().replace("the ", "")} ${standsSaid(figure, value, units)}`)
    .join(", "); // prettier-ignore

const DOES: Record<string, string> = {
  anti_squat: "Anti-squat",
  anti_dive: "Anti-dive",
  ic_length: "Instant center length",
  roll_center_height: "Roll center height",
  roll_axis_angle: "Roll axis angle",
};
const UNIT: Record<string, Quantity> = {
  anti_squat: "percent",
  anti_dive: "percent",
  roll_axis_angle: "angle",
};

function Does({ found, units }: { found: Fit; units: Units }) {
  const { designed, as_made } = found;
  if (!designed || !as_made) return null;
  const said = (figure: string, value: number | null | undefined) =>
    value == null ? "–" : show(value, UNIT[figure] ?? "length", units);
  return (
    <FigureSection
      title="What it will do"
      head={["", "Designed", "As built"]}
      rows={Object.keys(DOES)
        .filter((figure) => designed[figure] != null)
        .map((figure) => [DOES[figure], said(figure, designed[figure]), said(figure, as_made[figure])])}
    />
  );
}

const Bars = ({ found, units }: { found: Fit; units: Units }) => (
  <FigureSection
    title="Bars, for the axle to stand as drawn"
    head={["", "Made", "Needed", "Turns"]}
    rows={found.lengths.map((one) => [
      words(one.bar),
      length(one.made, units),
      length(one.needed, units),
      one.turns === null ? "no thread known" : plain(one.turns, 1),
    ])}
  />
);

const Mounts = ({ document, found, units }: { document: Document; found: Fit; units: Units }) => (
  <FigureSection
    title="Mounts as read"
    head={["", "Off the design", "Sure to"]}
    rows={found.mounts
      .filter(({ measured }) => measured)
      .map((one) => [
        capital(mountName(document, one.mount)),
        wayOf(one.off, units) || "in its place",
        length(Math.max(...one.sigma), units),
      ])}
  />
);
