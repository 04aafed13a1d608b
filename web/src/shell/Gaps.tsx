/** Clearances: how near what moves comes to everything else, the least to spare first; one of them drawn, and followed. */

import { memo, useEffect } from "react";
import styled from "styled-components";
import { create } from "zustand";

import { type Schemas, server } from "../api/client";
import { theRegister } from "../api/register";
import { type Document, type Point, words } from "../document/document";
import { f, line, type Xy } from "../floor/geometry";
import { Mark } from "../figures/Severity";
import { scrubbed, toPose, useScrub } from "./scrub";
import { Cures } from "./Cures";
import { useAsked } from "../solve/asking";
import { Button, List, Trouble } from "../ui/controls";
import { increment, length, type Units } from "../units/tape";

export type Gap = Schemas["Gap"];

interface Followed {
  /** The two parts that are looked at, by their names. */
  pair: readonly [string, string] | null;
  /** Their gap in the pose that is shown. */
  here: Gap | null;
}

export const useGap = create<Followed>()(() => ({ pair: null, here: null }));

const MORE = 4;

/** A part's name in words: a keep-out's own name, where it has one. */
export const partWords = (document: Document, name: string): string =>
  (document.room?.keep_outs ?? []).find((one) => one.id === name)?.name || words(name);

export const tooNear = (pairs: readonly Gap[]): Gap[] => pairs.filter((pair) => pair.gap < pair.wanted);

export function Gaps({ document, units }: { document: Document; units: Units }) {
  const key = JSON.stringify(document);
  const asked = useAsked(key, (signal) => server.clear({ document }, signal), 500);
  const { pair } = useGap();
  useEffect(() => () => useGap.setState({ pair: null, here: null }), []);
  if (asked.state === "failed") return <Trouble role="alert">Clearances: {asked.why}</Trouble>;
  if (!asked.data) return <p className="quiet">Working the clearances out…</p>;
  const { pairs } = asked.data;
  const near = tooNear(pairs).length;
  return (
    <section aria-label="Clearances" data-stale={asked.key !== key}>
      <h2>
        {near === 0
          ? "Everything clears"
          : near === 1
            ? "One pair is too near"
            : `${near} pairs are too near`}
      </h2>
      <p className="quiet">
        Over travel and twist{holds(document) ? ", as far as stops and straps let the axle come" : ""}.
      </p>
      {pair && <Here {...{ document, units, pair }} />}
      {pair && <Apart {...{ document, units, pair }} gaps={tooNear(pairs)} />}
      <List aria-label="Clearances, the least to spare first">
        {pairs.slice(0, near + MORE).map((gap) => (
          <Row key={`${gap.a} ${gap.b}`} {...{ gap, units }} names={namesOf(document, gap)} />
        ))}
      </List>
    </section>
  );
}

/** Whether a stop or a strap is there that ends the travel. */
const holds = ({ corners }: Document): boolean =>
  (corners?.stops ?? []).length + (corners?.straps ?? []).length > 0;

const namesOf = (document: Document, { a, b }: Pick<Gap, "a" | "b">) =>
  `${partWords(document, a)} and ${partWords(document, b).toLowerCase()}`;

const severityOf = ({ gap, wanted }: Gap) => (gap <= 0 ? "stop" : gap < wanted ? "fix" : "good");

const saidGap = (gap: number, units: Units) => (gap <= 0 ? "they meet" : length(gap, units));

/** Where a pair comes nearest: go there, and follow it. */
const Row = memo(function Row({ gap, names, units }: { gap: Gap; names: string; units: Units }) {
  const look = () => {
    toPose({ travel: gap.travel, articulation: gap.articulation });
    useGap.setState({ pair: [gap.a, gap.b], here: gap });
  };
  return (
    <li>
      <button type="button" className="row" data-gap={`${gap.a} ${gap.b}`} onClick={look}>
        <Mark severity={severityOf(gap)} />
        <span>{names}</span>
        <span className="worth">{saidGap(gap.gap, units)}</span>
      </button>
    </li>
  );
});

/** The pair that is looked at, in the pose that is shown: it follows the hand. */
function Here(props: { document: Document; units: Units; pair: readonly [string, string] }) {
  const { document, units, pair } = props;
  const scrub = scrubbed(document, useScrub());
  const key = JSON.stringify([document, scrub, pair]);
  const asked = useAsked(
    key,
    (signal) => server.gaps({ document, travel: scrub.travel, articulation: scrub.articulation }, signal),
    15,
  );
  const found = asked.data?.find(({ a, b }) => a === pair[0] && b === pair[1]) ?? null;
  useEffect(() => {
    if (asked.data) useGap.setState({ here: found });
  }, [asked.data, found]);
  return (
    <p role="status" data-testid="here">
      {found
        ? `${namesOf(document, found)}, in this pose: ${saidGap(found.gap, units)}; ${length(found.wanted, units)} is wanted.`
        : asked.data
          ? "Not looked at in this pose."
          : "…"}{" "}
      <Button onPress={() => useGap.setState({ pair: null, here: null })}>Drop it</Button>
    </p>
  );
}

/** What brings the pair that is looked at apart, where it comes too near. */
function Apart(props: { document: Document; units: Units; pair: readonly [string, string]; gaps: Gap[] }) {
  const { document, units, pair, gaps } = props;
  const near = gaps.find((gap) => gap.a === pair[0] && gap.b === pair[1]);
  if (!near) return null;
  const [a, b] = pair;
  return (
    <Cures
      about={[document, pair, units]}
      ask={(signal) =>
        server.clearing({ document, a, b, increment: increment(units, "shop"), units }, signal)
      }
      units={units}
      nothing={`Within ${length(theRegister().cure_within, units)} no move of a free mount of theirs, and no bend, clears them without a new stop and without bringing something else too near: move what is in the way, or ask for less travel.`}
    />
  );
}

const Lines = styled.g`
  stroke: var(--stop);
  stroke-width: 2;
  fill: none;
  pointer-events: none;
  circle {
    fill: var(--sheet);
  }
  && text {
    fill: var(--stop);
    stroke: var(--sheet);
    stroke-width: 3px;
    paint-order: stroke;
    font-weight: 600;
  }
`;

/** The nearest points of the pair that is looked at, and how far apart they are. */
export function GapLine({ here, to, units }: { here: Gap; to: (p: Point) => Xy; units: Units }) {
  if (!here.at_a || !here.at_b) return null;
  const [a, b] = [to(here.at_a), to(here.at_b)];
  return (
    <Lines data-testid="gap">
      <path d={line(a, b)} />
      {[a, b].map(([x, y], n) => (
        <circle key={n} cx={f(x)} cy={f(y)} r={3.5} />
      ))}
      <text x={f((a[0] + b[0]) / 2 + 9)} y={f((a[1] + b[1]) / 2 - 9)}>
        {length(here.gap, units)}
      </text>
    </Lines>
  );
}
