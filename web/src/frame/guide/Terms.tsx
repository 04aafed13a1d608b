/** What each figure is, as the register says it. */

import { useState } from "react";
import styled from "styled-components";

import { theRegister } from "../../api/register";
import { textField } from "../../ui/field";

const Found = styled.div`
  display: grid;
  gap: 0.5rem;
  input {
    ${textField}
  }
  dl {
    margin: 0;
    display: grid;
    gap: 0.5rem;
  }
`;

export function Terms() {
  const [wanted, setWanted] = useState("");
  const word = wanted.trim().toLowerCase();
  const found = theRegister().figures.filter(({ name, meaning }) =>
    `${name} ${meaning}`.toLowerCase().includes(word),
  );
  return (
    <Found>
      <label>
        Find a word
        <input value={wanted} autoComplete="off" onChange={(event) => setWanted(event.target.value)} />
      </label>
      {found.length === 0 && <p role="status">No figure has “{wanted}” in its name or its meaning.</p>}
      <dl>
        {found.map(({ id, name, meaning }) => (
          <div key={id}>
            <dt>{name}</dt>
            <dd>{meaning}</dd>
          </div>
        ))}
      </dl>
    </Found>
  );
}
