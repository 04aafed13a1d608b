/** All keys, by where they hold. */

import styled from "styled-components";

import { KEYS } from "../keys";

const Body = styled.div`
  display: grid;
  gap: 0.75rem;
  dl {
    margin: 2px 0 0;
    display: grid;
    grid-template-columns: 9em minmax(0, 1fr);
    gap: 2px 0.75rem;
  }
`;

export function Keys() {
  return (
    <Body>
      {KEYS.map(([where, keys]) => (
        <div key={where}>
          <h4>{where}</h4>
          <dl>
            {keys.map(([key, does]) => [<dt key={key}>{key}</dt>, <dd key={`${key} does`}>{does}</dd>])}
          </dl>
        </div>
      ))}
    </Body>
  );
}
