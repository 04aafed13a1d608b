import styled from "styled-components";

/** A table that may be wider than its column. */
export const Scrolled = styled.div`
  overflow-x: auto;
  table {
    border-collapse: collapse;
    width: 100%;
    font-size: 0.875rem;
  }
  th,
  td {
    text-align: left;
    font-weight: 400;
    padding: 3px 0.5rem 3px 0;
    border-bottom: 1px solid var(--hair);
  }
  thead th {
    color: var(--quiet);
  }
`;
