import styled from "styled-components";

import { figureTables } from "../../ui/tables";

/** A table that may be wider than its column. */
export const Scrolled = styled.div`
  overflow-x: auto;
  ${figureTables}
  th,
  td {
    text-align: left;
    padding: 3px 0.5rem 3px 0;
  }
`;
