/** What stands beside the floor in tabs. */

import { Tabs } from "react-aria-components";
import styled, { css } from "styled-components";

/** A row of tabs, the chosen one underlined. */
export const tabRow = css`
  .tabs {
    display: flex;
    border-bottom: 1px solid var(--line);
  }
  .tab {
    min-height: var(--touch);
    text-align: center;
    cursor: pointer;
    border-bottom: 3px solid transparent;
  }
  .tab[data-selected] {
    border-bottom-color: var(--accent);
    font-weight: 600;
  }
`;

/** What panes beside the floor have in common. */
export const besideFloor = css`
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
`;

export const FloorTabs = styled(Tabs)`
  grid-row: 1 / -1;
  min-height: 0;
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  ${tabRow}
  .tab {
    flex: 1;
    padding: 0.375rem 0.25rem;
  }
  .panel {
    overflow-y: auto;
    padding: 0.5rem 0.75rem 1rem 0.875rem;
    min-height: 0;
  }
  section,
  .panel > div {
    display: grid;
    gap: 0.5rem;
    align-content: start;
  }
  ${besideFloor}
  button.row.wide {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }
  button.row.wide[aria-pressed="true"] {
    background: var(--accent-soft);
  }
  .place {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
    border-bottom: 1px solid var(--hair);
    padding: 3px 0;
  }
`;
