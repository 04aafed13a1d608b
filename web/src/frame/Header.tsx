/** The strip on top of every screen: where one is, whether it is stored, undo, and what is rarely used. */

import { lazy, memo, Suspense } from "react";
import { Link, useLocation } from "react-router";
import styled from "styled-components";

import type { Document } from "../document/document";
import { useAsking } from "../state/areas";
import { type Sync, useDesign } from "../state/design";
import { Button } from "../ui/controls";
import { Files, More } from "./More";
import { Where } from "./Where";

const GuideSheet = lazy(() => import("./guide/GuideSheet"));

const Bar = styled.header`
  grid-row: 1;
  display: flex;
  align-items: center;
  gap: 0.375rem;
  padding: 2px 0.75rem;
  min-height: 2.5rem;
  @media (max-width: 1000px) {
    flex-wrap: wrap;
    row-gap: 4px;
  }
  a {
    color: inherit;
    font-weight: 600;
    display: flex;
    align-items: center;
    gap: 0.5rem;
    text-decoration: none;
    min-height: 2.25rem;
    white-space: nowrap;
    flex: none;
  }
  a:hover {
    text-decoration: underline;
  }
  button {
    padding-inline: 0.5rem;
    min-height: 2rem;
    @media (pointer: coarse) {
      min-height: var(--touch);
    }
  }
  h1 {
    font-size: 1.0625rem;
    font-weight: 600;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 0;
    margin-left: 0.25rem;
  }
  .why {
    font-size: 0.8125rem;
    color: var(--quiet);
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 0;
    @media (max-width: 1000px) {
      display: none;
    }
  }
  .build {
    display: inline-block;
    max-width: 10em;
    overflow: hidden;
    text-overflow: ellipsis;
    vertical-align: bottom;
  }
  .right {
    margin-left: auto;
    display: flex;
    gap: 0.375rem;
    align-items: center;
    flex: none;
    @media (max-width: 600px) {
      flex: 0 1 auto;
      flex-wrap: wrap;
      justify-content: end;
    }
  }
`;

const State = styled.span`
  font-size: 0.875rem;
  color: var(--quiet);
  white-space: nowrap;
  &[data-state="held"],
  &[data-state="refused"],
  &[data-state="conflict"] {
    color: var(--stop);
    font-weight: 600;
  }
`;

const said = (sync: Sync, number: number | undefined): string => {
  if (sync.state === "stored") return number === undefined ? "" : `Stored, revision ${number}`;
  if (sync.state === "storing") return "Storing…";
  if (sync.state === "held") return "Not stored yet: edits are held here";
  if (sync.state === "refused") return "Last edit refused";
  return sync.state === "conflict" ? "Two edits: choose" : "Deleted";
};

/** Of the open design: whether it is stored, its history, a step back, its drawing. */
const OfDesign = memo(function OfDesign({ design, onHistory }: { design: number; onHistory: () => void }) {
  const sync = useDesign((s) => s.sync);
  const number = useDesign((s) => s.stored?.number);
  const canUndo = useDesign((s) => s.past.length > 0);
  const canRedo = useDesign((s) => s.future.length > 0);
  const { undo, redo } = useDesign.getState();
  return (
    <>
      <State role="status" data-state={sync.state} data-testid="stored-state">
        {said(sync, number)}
      </State>
      <Button onPress={onHistory}>History</Button>
      <Button isDisabled={!canUndo} onPress={undo}>
        Undo
      </Button>
      <Button isDisabled={!canRedo} onPress={redo}>
        Redo
      </Button>
      <Files design={design} />
    </>
  );
});

/** The guide, open at the step of the job that one is in; fetched when it is first asked for. */
function Help() {
  const { open, ask, close } = useAsking();
  const area = useLocation().pathname.split("/").at(-1) ?? "";
  return (
    <>
      <Button aria-label="Help" onPress={() => ask("help")}>
        ?
      </Button>
      {open === "help" && (
        <Suspense>
          <GuideSheet area={area} onClose={close} />
        </Suspense>
      )}
    </>
  );
}

export const Header = memo(function Header(props: {
  /** The open design; left out where none is. */
  open?: { document: Document; design: number } | null;
  onHistory?: () => void;
}) {
  const { open, onHistory } = props;
  return (
    <Bar>
      <Link to="/">
        <img src="/mark.svg" alt="" width={22} height={22} />
        Oak Lever
      </Link>
      {open && <Where {...open} />}
      <div className="right">
        {open && onHistory && <OfDesign design={open.design} onHistory={onHistory} />}
        <Help />
        <More />
      </div>
    </Bar>
  );
});
