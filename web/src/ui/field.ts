/** How a field for text looks, wherever it stands. */

import { css } from "styled-components";

export const textField = css`
  height: var(--touch);
  padding: 0 0.5rem;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  color: var(--ink);
`;
