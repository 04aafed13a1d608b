/** A button that drops a menu: things to go to, to do, or to choose among. */

import type { ReactNode } from "react";
import {
  Button as AriaButton,
  Header,
  Menu,
  MenuItem,
  MenuSection,
  MenuTrigger,
  Popover,
} from "react-aria-components";
import styled from "styled-components";

export const Opener = styled(AriaButton)`
  min-height: 2.25rem;
  padding: 2px 0.625rem;
  white-space: nowrap;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  cursor: pointer;
  &[data-hovered] {
    border-color: var(--ink);
  }
`;

export const Drop = styled(Popover)`
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 4px;
  box-shadow: 0 6px 20px rgb(0 0 0 / 0.18);
  max-width: 26.25rem;
  overflow-y: auto;
  header {
    padding: 0.375rem 0.875rem 0;
    font-size: 0.8125rem;
    color: var(--quiet);
  }
`;

export const Item = styled(MenuItem)`
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

export interface Section {
  name: string;
  /** Keys and words. */
  lines: readonly (readonly [string, string])[];
  /** The key of the one that holds now; left out where none of them is a state. */
  now?: string;
}

/** Sections of lines, each to press once. */
export function MenuOf(props: {
  label: string;
  opener: ReactNode;
  sections: readonly Section[];
  onOpen?: (open: boolean) => void;
  onPress: (key: string) => void;
}) {
  const { label, opener, sections, onOpen, onPress } = props;
  return (
    <MenuTrigger {...(onOpen && { onOpenChange: onOpen })}>
      <Opener aria-label={label}>{opener}</Opener>
      <Drop>
        <Menu aria-label={label} onAction={(key) => onPress(String(key))}>
          {sections.map(({ name, lines, now }) => (
            <MenuSection
              key={name}
              {...(now !== undefined && { selectionMode: "single" as const, selectedKeys: [now], disallowEmptySelection: true })}
            >
              <Header>{name}</Header>
              {lines.map(([key, words]) => (
                <Item key={key} id={key}>
                  {words}
                </Item>
              ))}
            </MenuSection>
          ))}
        </Menu>
      </Drop>
    </MenuTrigger>
  ); // prettier-ignore
}
