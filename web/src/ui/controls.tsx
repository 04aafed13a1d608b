/** The few controls all screens share: React Aria's behavior, our looks. */

import {
  Button as AriaButton,
  ListBox,
  ListBoxItem,
  Modal,
  ModalOverlay,
  Select,
  SelectValue,
  ToggleButton,
} from "react-aria-components";
import styled from "styled-components";

import { Drop } from "./menu";
import { textField } from "./field";

export const Button = styled(AriaButton)`
  min-height: var(--touch);
  padding: 4px 0.875rem;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  cursor: pointer;
  &[data-hovered] {
    border-color: var(--ink);
  }
  &[data-pressed] {
    background: var(--steel);
  }
  &[data-disabled] {
    color: var(--quiet);
    border-color: var(--hair);
    cursor: default;
  }
  &.main {
    background: var(--accent);
    border-color: var(--accent);
    color: var(--on-accent);
  }
  &.main[data-disabled] {
    background: var(--sheet);
    border-color: var(--hair);
    color: var(--quiet);
  }
`;

export const Toggle = styled(ToggleButton)`
  min-height: var(--touch);
  padding: 4px 0.75rem;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  cursor: pointer;
  &[data-selected] {
    background: var(--accent-soft);
    border-color: var(--accent);
  }
`;

const Opener = styled(AriaButton)`
  min-height: var(--touch);
  padding: 4px 0.625rem;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  display: flex;
  gap: 0.5rem;
  align-items: center;
  cursor: pointer;
  max-width: 100%;
  & > span:first-child {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
`;

const Wide = styled(Drop)`
  min-width: var(--trigger-width);
`;

const Item = styled(ListBoxItem)`
  padding: 0.5625rem 0.875rem;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--accent-soft);
  }
  &[data-selected] {
    font-weight: 600;
  }
`;

/** A choice of one among a few. */
export function Choice<K extends string>(props: {
  label: string;
  placeholder?: string;
  value: K | null;
  options: readonly (readonly [K, string])[];
  onChange: (value: K) => void;
}) {
  return (
    <Select
      aria-label={props.label}
      placeholder={props.placeholder ?? props.label}
      value={props.value}
      onChange={(key) => key !== null && props.onChange(key as K)}
    >
      <Opener>
        <SelectValue />
        <span aria-hidden="true">▾</span>
      </Opener>
      <Wide>
        <ListBox>
          {props.options.map(([key, name]) => (
            <Item key={key} id={key}>
              {name}
            </Item>
          ))}
        </ListBox>
      </Wide>
    </Select>
  );
}

/** Behind a sheet that must be answered first. */
export const Shade = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  background: rgb(20 20 18 / 0.45);
  display: grid;
  place-items: center;
  z-index: 20;
`;

/** The sheet itself. */
export const Sheet = styled(Modal)`
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 6px;
  width: min(45rem, 94vw);
  max-height: 94vh;
  overflow: auto;
  section {
    padding: 1.25rem 1.5rem;
    outline: none;
  }
  h2 {
    font-size: 1.25rem;
    font-weight: 600;
    margin-bottom: 0.75rem;
  }
  .choices {
    display: flex;
    gap: 0.625rem;
  }
`;

/** One thing to type, with its name above it. */
export function Typed(props: { words: string; value: string; onChange: (text: string) => void }) {
  return (
    <label>
      {props.words}
      <input
        value={props.value}
        autoComplete="off"
        onChange={(event) => props.onChange(event.target.value)}
      />
    </label>
  );
}

/** A few things to type, each with its name above it. */
export const Entries = styled.form`
  display: grid;
  align-items: end;
  label {
    font-size: 0.8438rem;
    color: var(--quiet);
    display: grid;
  }
  input {
    ${textField}
    width: 100%;
    font-size: 0.9375rem;
  }
`;

/** Lines to press, each with a mark before it and a figure behind. */
export const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  button.row {
    display: grid;
    grid-template-columns: 1.25rem minmax(0, 1fr) auto;
    gap: 0.375rem;
    align-items: center;
    width: 100%;
    min-height: 2.125rem;
    padding: 2px 4px;
    border: 0;
    border-bottom: 1px solid var(--hair);
    background: none;
    text-align: left;
    cursor: pointer;
  }
  button.row:hover {
    background: var(--sheet);
  }
  .worth {
    font-weight: 600;
  }
`;

/** Something went wrong: what, and what to do. */
export const Trouble = styled.p`
  padding: 0.5rem 0.75rem;
  background: var(--stop-soft);
  border-left: 4px solid var(--stop);
  color: var(--ink);
  border-radius: 2px;
`;
