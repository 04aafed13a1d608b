/** The steps of the job in the order of the work, what stands open at each, and what it wants next. */

import { useMemo } from "react";
import { NavLink, useNavigate } from "react-router";
import styled from "styled-components";

import type { Finding } from "../api/client";
import type { Document } from "../document/document";
import { Mark } from "../figures/Severity";
import { goTo } from "../state/selection";
import { useIsJudged, useSolver } from "../state/solver";
import { useTruck } from "../state/truck";
import { Button } from "../ui/controls";
import { nextOf, type Open, openAt, type Step, STEPS } from "./work";

const Bar = styled.section`
  grid-row: 2;
  display: flex;
  align-items: stretch;
  gap: 0.75rem;
  padding: 0 0.75rem;
  border-bottom: 1px solid var(--hair);
  min-height: 2.375rem;
  nav {
    display: flex;
    flex: none;
    gap: 2px;
    @media (max-width: 600px) {
      flex-wrap: wrap;
      min-width: 0;
    }
  }
  nav a {
    display: flex;
    align-items: center;
    gap: 0.3125rem;
    padding: 0 0.625rem;
    color: inherit;
    text-decoration: none;
    border-bottom: 3px solid transparent;
    white-space: nowrap;
  }
  nav a:hover {
    background: var(--sheet);
  }
  nav a[aria-current="page"] {
    font-weight: 600;
    border-bottom-color: var(--accent);
    background: var(--sheet);
  }
  .open {
    font-size: 0.8125rem;
    color: var(--quiet);
    display: inline-flex;
    align-items: center;
    gap: 2px;
  }
  .open svg {
    width: 0.6875rem;
    height: 0.6875rem;
  }
  .next {
    margin-left: auto;
    align-self: center;
    min-width: 0;
    min-height: 1.875rem;
    padding: 0 0.625rem;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  @media (max-width: 1000px) {
    flex-wrap: wrap;
    padding: 0 0.375rem;
    nav {
      flex: 1 1 100%;
    }
    nav a {
      flex: 1 1 auto;
      justify-content: center;
      padding: 0 0.25rem;
      min-height: var(--touch);
      font-size: 0.875rem;
    }
    .next {
      margin: 0 0 4px;
      min-height: var(--touch);
    }
  }
`;

/** For ears only: what the mark says. */
const Unseen = styled.span`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`;

const NONE: readonly Finding[] = [];

export function Steps({ design, document }: { design: number; document: Document }) {
  const findings = useSolver((s) => s.solved?.answer.findings) ?? NONE;
  const truck = useTruck((s) => s.truck?.document) ?? null;
  const open = useMemo(() => openAt(document, findings, truck), [document, findings, truck]);
  return (
    <Bar aria-label="The way through the job">
      <nav aria-label="Steps of the job">
        {STEPS.map(([step, name]) => (
          <NavLink key={step} to={`/designs/${design}/${step}`}>
            {name}
            {open[step] && <Stands open={open[step]} />}
          </NavLink>
        ))}
      </nav>
      <WantedNext {...{ design, document, findings }} />
    </Bar>
  );
}

function Stands({ open }: { open: Open }) {
  const { severity, count, words } = open;
  const grave = severity === "stop" || severity === "fix";
  return (
    <span className="open" title={words}>
      <span aria-hidden="true">
        {grave ? <Mark severity={severity} /> : severity === "guess" ? "?" : "○"}
      </span>
      {count}
      <Unseen>{words.replace(/^\d+/, "")}</Unseen>
    </span>
  );
}

/** Goes to what the job wants next, with its finding open. */
function WantedNext(props: { design: number; document: Document; findings: readonly Finding[] }) {
  const { design, document, findings } = props;
  const navigate = useNavigate();
  const truck = useTruck((s) => s.truck?.document) ?? null;
  const judged = useIsJudged();
  const next = useMemo(() => nextOf(document, findings, truck), [document, findings, truck]);
  if (!judged) return <p className="next">Judging…</p>;
  if (!next) return <p className="next">Nothing is left to do on this axle.</p>;
  const go = (step: Step, finding?: Finding) => {
    void navigate(`/designs/${design}/${step}`);
    if (finding) goTo(finding);
  };
  return (
    <Button className="next" data-testid="next" onPress={() => go(next.step, next.finding)}>
      <strong>Next</strong> {next.words}
    </Button>
  );
}
