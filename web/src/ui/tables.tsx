/** Tables of figures: how they look wherever they stand, and the plain ones, a name and its figures a row. */

import type { ReactNode } from "react";
import styled, { css } from "styled-components";

export const figureTables = css`
  table {
    border-collapse: collapse;
    width: 100%;
    font-size: 0.875rem;
  }
  th,
  td {
    text-align: right;
    font-weight: 400;
    padding: 2px 0 2px 0.375rem;
    border-bottom: 1px solid var(--hair);
    vertical-align: top;
  }
  tr > :first-child {
    text-align: left;
    padding-left: 0;
  }
  thead th {
    color: var(--quiet);
  }
`;

/** `head`: what stands over the columns, "" for a column that needs no name; `rows`: a name and its figures each. */
export function FigureTable({ head, rows }: { head: string[]; rows: ReactNode[][] }) {
  return (
    <table>
      <thead>
        <tr>
          {head.map((name, n) =>
            name === "" ? (
              <td key={n} />
            ) : (
              <th key={n} scope="col">
                {name}
              </th>
            ),
          )}
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, ...cells], row) => (
          <tr key={row}>
            <th scope="row">{name}</th>
            {cells.map((cell, n) => (
              <td key={n}>{cell}</td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const Titled = styled.section`
  ${figureTables}
  && h2 {
    font-size: 0.9375rem;
    margin-top: 0.5rem;
  }
  .bad {
    color: var(--stop);
    font-weight: 600;
  }
`;

/** A table under its title, with what is said below it; nothing where it has no rows. */
export function FigureSection(props: {
  title: string;
  head: string[];
  rows: ReactNode[][];
  children?: ReactNode;
}) {
  const { title, head, rows, children } = props;
  if (rows.length === 0) return null;
  return (
    <Titled aria-label={title}>
      <h2>{title}</h2>
      <FigureTable head={head} rows={rows} />
      {children}
    </Titled>
  );
}
