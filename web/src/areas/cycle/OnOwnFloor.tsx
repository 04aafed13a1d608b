/** A part of the cycle that is placed on the floor: its pane beside it, the nearest gap on it. */

import type { ReactNode } from "react";
import styled from "styled-components";

import { reachOf } from "../../document/room";
import { besideFloor } from "../../panels/FloorTabs";
import { useGapLayer } from "../../panels/gapLayer";
import { OnFloor } from "../../panels/OnFloor";
import { useStanding } from "../../state/poses";
import { figureTables } from "../../ui/tables";
import type { Shown } from "./Cycle";

const Pane = styled.div`
  grid-row: 1 / -1;
  overflow-y: auto;
  padding: 0.5rem 0.75rem 1rem 0.875rem;
  display: grid;
  gap: 0.5rem;
  align-content: start;
  min-height: 0;
  ${besideFloor}
  ${figureTables}
`;

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
      note={help}
      beside={<Pane>{children}</Pane>}
    />
  );
}
