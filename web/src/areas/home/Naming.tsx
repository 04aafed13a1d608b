/** A name and notes, where they stand: typed, stored or left as they were. */

import { type SubmitEvent, useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/controls";

const Form = styled.form`
  display: flex;
  gap: 0.5rem;
  flex-wrap: wrap;
  align-items: center;
  input {
    height: 2.375rem;
    min-width: 0;
    flex: 1 1 11.25rem;
    padding: 0 0.625rem;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--sheet);
  }
`;

interface NamingProps {
  what: string;
  name: string;
  /** Left out where there are none. */
  notes?: string;
  onName: (name: string, notes: string) => Promise<boolean>;
  onLeave: () => void;
}

export function Naming(props: NamingProps) {
  const [name, setName] = useState(props.name);
  const [notes, setNotes] = useState(props.notes ?? "");
  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    if (name.trim()) void props.onName(name.trim(), notes.trim()).then((done) => done && props.onLeave());
  };
  return (
    <Form
      onSubmit={submit}
      aria-label={`Rename ${props.what}`}
      onKeyDown={(event) => {
        if (event.key === "Escape") props.onLeave();
      }}
    >
      <input
        aria-label="Name"
        value={name}
        maxLength={200}
        autoFocus
        onFocus={(event) => event.target.select()}
        onChange={(event) => setName(event.target.value)}
      />
      {props.notes !== undefined && (
        <input
          aria-label="Notes"
          placeholder="What it is and what it carries"
          value={notes}
          maxLength={2000}
          onChange={(event) => setNotes(event.target.value)}
        />
      )}
      <Button type="submit" isDisabled={!name.trim()}>
        Store
      </Button>
      <Button onPress={props.onLeave}>Leave it</Button>
    </Form>
  );
}
