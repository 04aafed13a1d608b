/** The fields and quiet buttons of Home. */

import { TextField } from "react-aria-components";
import styled from "styled-components";

import { Button } from "../../ui/controls";

export const Field = styled(TextField)`
  display: grid;
  gap: 4px;
  input {
    height: 2.375rem;
    min-width: 15rem;
    padding: 0 0.625rem;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--sheet);
  }
`;

export const Quiet = styled(Button)`
  border-color: transparent;
  background: none;
  padding: 4px 0.5rem;
`;
