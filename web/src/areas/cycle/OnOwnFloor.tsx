/** A part of the cycle that is placed on the floor: its pane beside it, the nearest gap on it. */

import type { ReactNode } from "react";
import styled from "styled-components";

import { reachOf } from "../../document/room";
import { useGapLayer } from "../../shell/gapLayer";
import { OnFloor } from "../../shell/OnFloor";
import { useStanding } from "../../shell/poses";
import type { Shown } from "./Cycle";

const Pane = styled.div`
  grid-row: 1 / -1;
  overflow-y: auto;
  padding: 0.5rem 0.75rem 1rem 0.875rem;
  display: grid;
  gap: 0.5rem;
  align-content: start;
  min-height: 0;
  h2 {
    font-size: 1rem;
    font-weight: 600;
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  .line {
    display: flex;
    gap: 0.375rem;
    flex-wrap: wrap;
    align-items: center;
  }
  form {
    grid-template-columns: 1fr 1fr;
    gap: 0.375rem 0.5rem;
  }
  table {
    border-collapse: collapse;
    width: 100%;
    font-size: 0.875rem;
  }
  th,
  td {
    text-align: right;
    font-weight: 400;
    padding: 2px 0 2px 0.375rem;
    border-bottom: 1px solid var(--hair);
    vertical-align: top;
  }
  tr > :first-child {
    text-align: left;
    padding-left: 0;
  }
  thead th {
    color: var(--quiet);
  }
`;

const HELP = { padding: "0.5rem 1rem", color: "var(--quiet)", fontSize: "0.875rem" };

export function OnOwnFloor({
  document,
  units,
  solved,
  help,
  children,
}: Shown & { help: string; children: ReactNode }) {
  const standing = useStanding(document, solved);
  const layers = useGapLayer(units);
  return (
    <OnFloor
      {...{ document, standing, layers }}
      far={reachOf(document)}
      within
      corner={<p style={HELP}>{help}</p>}
      beside={<Pane>{children}</Pane>}
    />
  );
}
