/** What stands beside the floor in tabs. */

import type { ReactNode } from "react";
import { Tab, TabList, TabPanel, Tabs } from "react-aria-components";
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

const Beside = styled(Tabs)`
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

interface Given {
  /** The area, in words and as tests call it. */
  label: string;
  testid: string;
  tabs: readonly (readonly [id: string, name: string, shown: ReactNode])[];
  /** Which of them stands open, where who shows them says so. */
  open?: string;
  onOpen?: (id: string) => void;
}

/** An area's own tabs, in the pane beside its floor. */
export function FloorTabs({ label, testid, tabs, open, onOpen }: Given) {
  return (
    <Beside
      id="pane"
      data-testid={testid}
      {...(open !== undefined && { selectedKey: open })}
      onSelectionChange={(key) => onOpen?.(String(key))}
    >
      <TabList className="tabs" aria-label={label}>
        {tabs.map(([id, name]) => (
          <Tab key={id} id={id} className="tab">
            {name}
          </Tab>
        ))}
      </TabList>
      {tabs.map(([id, , shown]) => (
        <TabPanel key={id} id={id} className="panel">
          {shown}
        </TabPanel>
      ))}
    </Beside>
  );
}
