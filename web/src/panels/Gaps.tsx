/** Clearances: how near what moves comes to everything else, the least to spare first; one of them drawn, and followed. */

import { memo, useEffect } from "react";
import styled from "styled-components";
import { create } from "zustand";

import { type Finding, type Schemas, server } from "../api/client";
import { type Document, type Point, words } from "../document/document";
import { f, line, type Xy } from "../floor/geometry";
import { Mark } from "../figures/Severity";
import { scrubbed, toPose, useScrub } from "../state/scrub";
import { Sought } from "./FindingPane";
import { useSolver } from "../state/solver";
import { useAsked } from "../solve/asking";
import { Button, List, Trouble } from "../ui/controls";
import { length, type Units } from "../units/tape";

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

export function Gaps({ document, units }: { document: Document; units: Units }) {
  const { gaps, gapsFailed } = useSolver();
  const { pair } = useGap();
  useEffect(() => () => useGap.setState({ pair: null, here: null }), []);
  if (gapsFailed !== null) return <Trouble role="alert">Clearances: {gapsFailed}</Trouble>;
  if (!gaps) return <p className="quiet">Working the clearances out…</p>;
  const { pairs, findings } = gaps;
  const graded = pairs.map((gap) => ({ gap, severity: gradeOf(gap, findings) }));
  const near = graded.filter(({ severity }) => severity !== "good").length;
  return (
    <section aria-label="Clearances" data-stale={gaps.document !== document}>
      <h2>
        {near === 0
          ? pairs.length === 1
            ? "The one pair clears"
            : `All ${pairs.length} pairs clear`
          : near === 1
            ? "One pair is too near"
            : `${near} pairs are too near`}
      </h2>
      <p className="quiet">
        Between what moves, and {against(document)}, over travel and twist
        {holds(document) ? ", as far as stops and straps let the axle come" : ""}.
      </p>
      {pair && <Here {...{ document, units, pair }} />}
      {pair && <Apart {...{ document, units, pair, findings }} />}
      <List aria-label="Clearances, the least to spare first">
        {graded.slice(0, near + MORE).map(({ gap, severity }) => (
          <Row key={`${gap.a} ${gap.b}`} {...{ gap, severity, units }} names={namesOf(document, gap)} />
        ))}
      </List>
    </section>
  );
}

const against = ({ room }: Document): string => {
  const count = (room?.keep_outs ?? []).length;
  if (count === 0) return "nothing else: no keep-out is drawn";
  return count === 1 ? "the one keep-out that is drawn" : `the ${count} keep-outs that are drawn`;
};

/** Whether a stop or a strap is there that ends the travel. */
const holds = ({ corners }: Document): boolean =>
  (corners?.stops ?? []).length + (corners?.straps ?? []).length > 0;

const namesOf = (document: Document, { a, b }: Pick<Gap, "a" | "b">) =>
  `${partWords(document, a)} and ${partWords(document, b).toLowerCase()}`;

/** How grave a pair's gap is: by its own finding, or the one that its mirror image shares with it. */
const gradeOf = (gap: Gap, findings: readonly Finding[]): Finding["severity"] =>
  findingOf(gap, findings)?.severity ?? "good";

const findingOf = ({ a, b }: Pick<Gap, "a" | "b">, findings: readonly Finding[]): Finding | undefined =>
  findings.find(({ place: { parts } }) => pairsIn(parts).some(([one, other]) => one === a && other === b));

/** The parts of a finding on a gap, two by two: its own, then its mirror image's. */
const pairsIn = (parts: readonly string[]): (readonly [string, string])[] =>
  parts.flatMap((part, n) => (n % 2 === 0 ? [[part, parts[n + 1]!] as const] : []));

const saidGap = (gap: number, units: Units) => (gap <= 0 ? "they meet" : length(gap, units));

/** Where a pair comes nearest: go there, and follow it. */
const Row = memo(function Row(props: {
  gap: Gap;
  severity: Finding["severity"];
  names: string;
  units: Units;
}) {
  const { gap, severity, names, units } = props;
  const look = () => {
    toPose({ travel: gap.travel, articulation: gap.articulation });
    useGap.setState({ pair: [gap.a, gap.b], here: gap });
  };
  return (
    <li>
      <button type="button" className="row" data-gap={`${gap.a} ${gap.b}`} onClick={look}>
        <Mark severity={severity} />
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
function Apart(props: {
  document: Document;
  units: Units;
  pair: readonly [string, string];
  findings: readonly Finding[];
}) {
  const { document, units, pair, findings } = props;
  const near = findingOf({ a: pair[0], b: pair[1] }, findings);
  return near ? <Sought {...{ document, units }} finding={near} /> : null;
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
