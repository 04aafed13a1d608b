/** A figure of a part that runs with the axle: its curve, what moves it, and what it should be. */

import { type SubmitEvent, useState } from "react";
import styled from "styled-components";

import { type Finding, NO_SERVER, reasonOf, server } from "../api/client";
import type { Document } from "../document/document";
import { Curve } from "../figures/Curve";
import { type Values } from "../figures/plots";
import { mountWords, wayWords } from "../figures/moves";
import { LEAST, type Quantity, QUANTITIES, readQuantity, show, showChange } from "../figures/readings";
import { bandOn, columnOf, runOf } from "../figures/runs";
import { useAsked } from "../solve/asking";
import { Button, Entries, Trouble, Typed } from "../ui/controls";
import { increment, length, type Units } from "../units/tape";
import { dropPreview, preview, takePreview, useBehind } from "../state/behind";
import { usePreferences } from "../state/preferences";
import type { Solved } from "../state/solver";

const Box = styled.div`
  display: grid;
  gap: 0.375rem;
  figure {
    margin: 0;
  }
  figcaption {
    font-size: 0.8438rem;
    color: var(--quiet);
  }
  ol {
    margin: 0;
    padding: 0;
    list-style: none;
    font-size: 0.875rem;
  }
  li {
    display: flex;
    justify-content: space-between;
    gap: 0.5rem;
    border-bottom: 1px solid var(--hair);
  }
`;

const WIDE_PX = 300;
const HIGH_PX = 74;

interface Of {
  document: Document;
  solved: Solved;
  units: Units;
  finding: Finding;
}

export function RunPane(props: Of) {
  const { solved, finding } = props;
  const run = runOf(finding);
  const behind = useBehind((s) => s.behind?.answer ?? null);
  if (!run) return null;
  const column = columnOf(run.figure, run.part);
  const quantity = QUANTITIES[run.figure.unit];
  return (
    <Box>
      {column !== null && (
        <Curves {...{ column, quantity, solved }} behind={behind} band={bandOn(run.figure, finding)} />
      )}
      <Movers {...props} quantity={quantity} />
    </Box>
  );
}

const SWEEPS = [
  ["heave", "travel", "Over the travel, droop to bump"],
  ["articulation", "articulation", "Over the twist at ride, right wheel up to left wheel up"],
] as const;

function Curves(props: {
  column: string;
  quantity: Quantity;
  solved: Solved;
  behind: Solved["answer"] | null;
  band: [number | null, number | null] | null;
}) {
  const { column, quantity, solved, behind, band } = props;
  const units = usePreferences((s) => s.units);
  const { answer } = solved;
  return SWEEPS.map(([sweep, along, words]) => {
    const values: Values = answer[sweep].columns[column] ?? [];
    const known = values.filter((v): v is number => v !== null);
    if (known.length === 0) return null;
    const straight = Math.abs(solved.articulation) < 0.01;
    const onIt = sweep === "heave" ? straight : Math.abs(solved.travel) < 0.01;
    return (
      <figure key={sweep}>
        <Curve
          along={answer[sweep].columns[along]!}
          values={values}
          ghost={behind?.[sweep].columns[column] ?? null}
          band={band}
          here={sweep === "heave" ? solved.travel : solved.articulation}
          hereValue={onIt ? (answer.here.columns[column]?.[0] ?? null) : null}
          least={LEAST[quantity]}
          width={WIDE_PX}
          height={HIGH_PX}
        />
        <figcaption>
          {words}: {show(known[0], quantity, units)} to {show(known.at(-1), quantity, units)}; from{" "}
          {show(Math.min(...known), quantity, units)} to {show(Math.max(...known), quantity, units)}.
        </figcaption>
      </figure>
    );
  });
}

/** What an increment of each of its points does to it; and what it should be, typed. */
function Movers({ document, units, finding, quantity }: Of & { quantity: Quantity }) {
  const step = increment(units, "shop");
  const key = JSON.stringify([document, finding.id, step]);
  const asked = useAsked(key, (signal) =>
    server.runEffects({ document, check: finding.id, increment: step }, signal),
  );
  const moves = (asked.data ?? []).filter((one) => /[1-9]/.test(show(Math.abs(one.change), quantity, units)));
  if (moves.length === 0) return null;
  return (
    <>
      <h3 style={{ fontSize: "0.9375rem", fontWeight: 600 }}>What {length(step, units)} does to it</h3>
      <ol aria-label="What moves it" data-stale={asked.key !== key}>
        {moves.slice(0, 6).map((one) => (
          <li key={`${one.mounts.join(" ")} ${one.axis}`}>
            <span>
              {mountWords(document, one.mounts)} {wayWords(document, one.mounts, one.axis, 1)}
            </span>
            <span>{showChange(one.change, quantity, units)}</span>
          </li>
        ))}
      </ol>
      <Want {...{ document, units, finding, quantity }} />
    </>
  );
}

function usePull({ document, units, finding, quantity }: Omit<Of, "solved"> & { quantity: Quantity }) {
  const [text, setText] = useState("");
  const [said, setSaid] = useState<string | null>(null);
  const [offered, setOffered] = useState<Document | null>(null);
  const put = (typed: string) => {
    setText(typed);
    setSaid(null);
  };
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const value = readQuantity(text, quantity, units);
    if (typeof value === "string") {
      setSaid(value);
      return;
    }
    const answer = await server
      .runPull({ document, wanted: [{ check: finding.id, value }], increment: increment(units, "fine") })
      .catch(() => null);
    if (!answer?.data) {
      setSaid(answer ? reasonOf(answer.error) : NO_SERVER);
      return;
    }
    const { met, got, farthest, document: next, worse } = answer.data;
    setSaid(
      `${met ? "It comes to" : "The nearest it gets is"} ${show(got[0] ?? null, quantity, units)}; nothing moves farther than ${length(farthest, units)}.${worse.length > 0 ? ` Worse then: ${worse.join("; ")}.` : ""}`,
    );
    if (farthest > 0) {
      setOffered(next as Document);
      preview("its points moved", next as Document);
    }
  };
  return { text, put, said, offered, setOffered, submit };
}

/** Pull it: the least that its points move to give it what is typed. */
function Want(props: Omit<Of, "solved"> & { quantity: Quantity }) {
  const { text, put, said, offered, setOffered, submit } = usePull(props);
  const done = (act: () => void) => () => {
    act();
    setOffered(null);
  };
  return (
    <Entries
      aria-label="Pull it"
      onSubmit={(event) => void submit(event)}
      style={{ gridTemplateColumns: "1fr auto auto", gap: 6 }}
    >
      <Typed words="It should be" value={text} onChange={put} />
      {offered ? (
        <>
          <Button className="main" onPress={done(takePreview)}>
            Take it
          </Button>
          <Button onPress={done(dropPreview)}>Drop it</Button>
        </>
      ) : (
        <Button type="submit" isDisabled={text.trim() === ""}>
          Pull it there
        </Button>
      )}
      {said !== null && (
        <Trouble role="status" style={{ gridColumn: "1 / -1" }}>
          {said}
        </Trouble>
      )}
    </Entries>
  );
}
