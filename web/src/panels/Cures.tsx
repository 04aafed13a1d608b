/** What cures something that is wrong, asked of the core: each looked at before it is taken. */

import { useEffect, useState } from "react";
import styled from "styled-components";

import type { Answer, Schemas } from "../api/client";
import { figureOf } from "../api/register";
import type { Document } from "../document/document";
import { nameOf, QUANTITIES, show } from "../figures/readings";
import { useAsked } from "../solve/asking";
import { Button, Trouble } from "../ui/controls";
import { unbroken, type Units } from "../units/tape";
import { dropPreview, preview, takePreview } from "../state/behind";
import { useSolver } from "../state/solver";

export type Cure = Schemas["Cure"];

const Offered = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
  li {
    border: 1px solid var(--hair);
    border-radius: 4px;
    padding: 4px 0.5rem;
  }
  .acts {
    float: right;
    display: grid;
    gap: 4px;
    margin: 0 0 4px 0.5rem;
  }
  .quiet {
    display: block;
  }
  li[data-shown="true"] {
    border-color: var(--accent);
    background: var(--accent-soft);
  }
`;

interface Given {
  /** What is asked about, so that an answer to something else is not shown. */
  about: unknown;
  ask: (signal: AbortSignal) => Promise<Answer<Cure[]>>;
  units: Units;
  /** The finding that is to be cured; it is not named among what else gets better. */
  own?: string;
  /** The figure that a cure leaves. */
  after?: (cure: Cure) => string | null;
  /** What is said where nothing was found. */
  nothing: string;
}

export function Cures({ about, ask, ...rest }: Given) {
  const key = JSON.stringify(about);
  const asked = useAsked(key, ask);
  if (asked.key !== key || asked.state === "asking")
    return (
      <p role="status" className="quiet">
        Looking for cures…
      </p>
    );
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  return asked.data ? <Found key={key} {...rest} cures={asked.data} /> : null;
}

type Found = Omit<Given, "about" | "ask"> & { cures: Cure[] };

function Found({ cures, nothing, ...rest }: Found) {
  const [shown, setShown] = useState<number | null>(null);
  useEffect(() => dropPreview, []);
  if (cures.length === 0) return <p role="status">{nothing}</p>;
  return (
    <Offered aria-label="Cures, the least costly first">
      {cures.map((cure, n) => {
        const look = () => {
          preview(cure.words, cure.document as Document);
          setShown(n);
        };
        const drop = () => {
          dropPreview();
          setShown(null);
        };
        return <CureLine key={cure.words} {...{ cure, look, drop }} {...rest} shown={shown === n} />;
      })}
    </Offered>
  );
}

/** Findings by their ids, in words. */
function named(ids: string[]): string {
  const found = useSolver.getState().solved?.answer.findings ?? [];
  return ids.map((id) => found.find((f) => f.id === id)?.title.toLowerCase() ?? nameOf(id)).join(", ");
}

/** One cure: what to do, what comes of it and what it costs, and looking at it before it is taken. */
function CureLine(
  props: Pick<Given, "units" | "own" | "after"> & {
    cure: Cure;
    shown: boolean;
    look: () => void;
    drop: () => void;
  },
) {
  const { cure, units, shown, look, drop } = props;
  const after = props.after?.(cure) ?? null;
  const others = cure.cures.filter((id) => id !== props.own);
  return (
    <li
      data-shown={shown}
      onKeyDown={(event) => {
        if (!shown || event.key !== "Escape") return;
        event.preventDefault();
        drop();
      }}
    >
      <span className="acts">
        {shown ? (
          <>
            <Button className="main" autoFocus onPress={takePreview}>
              Take it
            </Button>
            <Button onPress={drop}>Drop it</Button>
          </>
        ) : (
          <Button onPress={look}>Look at it</Button>
        )}
      </span>
      <span>
        {!cure.meets && "Helps, does not cure: "}
        {unbroken(cure.words)}
        {after !== null && (
          <>
            : <strong>{unbroken(after)}</strong>
          </>
        )}
      </span>
      <span className="quiet">
        {cure.price && `${unbroken(cure.price)} `}
        {others.length > 0 && `Also better: ${named(others)}. `}
        {cure.worsens.length > 0 &&
          unbroken(`Worse: ${cure.worsens.map((one) => worsenedWords(one, units)).join(", ")}.`)}
      </span>
    </li>
  );
}

/** "rear steer 2.8° to 3.4°". */
function worsenedWords({ figure, before, after }: Schemas["Worsened"], units: Units): string {
  const known = figureOf(figure);
  const quantity = QUANTITIES[known?.unit ?? "mm"];
  return `${(known?.name ?? figure).toLowerCase()} ${show(before, quantity, units)} to ${show(after, quantity, units)}`;
}
