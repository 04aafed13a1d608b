/** Which constructions stand on the floor whatever is chosen. */

import { memo } from "react";
import { Button as AriaButton, Menu, MenuItem, MenuTrigger, Popover } from "react-aria-components";
import styled from "styled-components";

import { DRAWN, type Drawn, useDrawn } from "../../floor/drawn";

const Opener = styled(AriaButton)`
  min-height: 2.25rem;
  padding: 2px 0.625rem;
  white-space: nowrap;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  cursor: pointer;
`;

const Drop = styled(Popover)`
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 4px;
  box-shadow: 0 6px 20px rgb(0 0 0 / 0.18);
`;

const Item = styled(MenuItem)`
  padding: 0.5rem 0.875rem 0.5rem 2.125rem;
  position: relative;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--accent-soft);
  }
  &[data-selected]::before {
    content: "✓";
    position: absolute;
    left: 0.75rem;
  }
`;

export const DrawnMenu = memo(function DrawnMenu() {
  const { drawn, setDrawn } = useDrawn();
  return (
    <MenuTrigger>
      <Opener>Draw also ▾</Opener>
      <Drop>
        <Menu
          aria-label="Constructions"
          selectionMode="multiple"
          selectedKeys={drawn}
          onSelectionChange={(keys) =>
            setDrawn(keys === "all" ? (Object.keys(DRAWN) as Drawn[]) : ([...keys] as Drawn[]))
          }
        >
          {(Object.entries(DRAWN) as [Drawn, string][]).map(([key, name]) => (
            <Item key={key} id={key}>
              {name}
            </Item>
          ))}
        </Menu>
      </Drop>
    </MenuTrigger>
  );
});
