/** Tables of figures: how they look wherever they stand, and the plain ones, a name and its figures a row. */

import type { ReactNode } from "react";
import { css } from "styled-components";

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

/** `head`: what stands over the columns, "" for a column that needs no name. */
export function FigureTable({ head, rows }: { head: string[]; rows: [string, ...ReactNode[]][] }) {
  return (
    <table>
      <thead>
        <tr>
          {head.map((name) =>
            name === "" ? (
              <td key={name} />
            ) : (
              <th key={name} scope="col">
                {name}
              </th>
            ),
          )}
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, ...cells]) => (
          <tr key={name}>
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
