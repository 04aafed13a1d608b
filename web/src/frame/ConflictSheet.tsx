/** Two edited one design: both are shown, and nothing is dropped unless someone says so. */

import { Dialog, Heading } from "react-aria-components";
import styled from "styled-components";

import type { Revision } from "../api/client";
import { differences, type Document, type Point } from "../document/document";
import { useDesign } from "../state/design";
import { Button, Shade, Sheet } from "../ui/controls";
import { lengthFigure, unitSign, type Units } from "../units/tape";

const Card = styled(Sheet)`
  section {
    display: grid;
    gap: 0.875rem;
  }
  table {
    border-collapse: collapse;
    width: 100%;
  }
  th,
  td {
    text-align: left;
    padding: 0.375rem 0.625rem 0.375rem 0;
    border-bottom: 1px solid var(--hair);
    font-weight: 400;
  }
  thead th {
    font-weight: 600;
  }
  .choices {
    flex-wrap: wrap;
  }
`;

export function ConflictSheet({ newest, mine, units }: { newest: Revision; mine: Document; units: Units }) {
  const { keepMine, takeTheirs, keepBoth } = useDesign.getState();
  const rows = differences(mine, newest.document);
  const told = (p: Point | null) => (p ? p.map((v) => lengthFigure(v, units)).join(" · ") : "not there");
  return (
    <Shade isOpen>
      <Card>
        <Dialog role="alertdialog">
          <Heading slot="title">Somebody else stored revision {newest.number} meanwhile</Heading>
          <p>
            Your edit is not lost. Choose what becomes of the two; every stored revision is kept either way.
            Put on top, yours changes what you changed and leaves the rest as the other has it.
          </p>
          {rows.length > 0 && (
            <table>
              <thead>
                <tr>
                  <th scope="col">Mount (ahead · left · up, {unitSign(units)})</th>
                  <th scope="col">Yours</th>
                  <th scope="col">Theirs</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <tr key={row.label}>
                    <th scope="row">{row.label}</th>
                    <td>{told(row.ours)}</td>
                    <td>{told(row.theirs)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <div className="choices">
            <Button className="main" onPress={() => void keepBoth()}>
              Keep both: mine as a new design
            </Button>
            <Button onPress={keepMine}>Put mine on top</Button>
            <Button onPress={takeTheirs}>Take theirs</Button>
          </div>
        </Dialog>
      </Card>
    </Shade>
  );
}
