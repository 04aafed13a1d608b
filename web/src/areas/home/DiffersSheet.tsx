/** A file's truck is not the build's in some figures: somebody says, one by one, which stand. */

import { useState } from "react";
import { Dialog, Heading } from "react-aria-components";
import styled from "styled-components";

import type { Schemas } from "../../api/client";
import { capital } from "../../document/parts";
import { showTruck } from "../../figures/truck";
import { usePreferences } from "../../state/preferences";
import { Button, Shade, Sheet, Toggle } from "../../ui/controls";

const Table = styled.table`
  width: 100%;
  border-collapse: collapse;
  margin: 0.75rem 0;
  th,
  td {
    text-align: left;
    font-weight: 400;
    padding: 4px 0.5rem 4px 0;
    border-bottom: 1px solid var(--hair);
  }
  thead th {
    font-weight: 600;
  }
`;

interface DiffersProps {
  file: string;
  truck: string;
  differences: Schemas["Difference"][];
  onChoose: (take: string[]) => void;
  onLeave: () => void;
}

export function DiffersSheet({ file, truck, differences, onChoose, onLeave }: DiffersProps) {
  const units = usePreferences((s) => s.units);
  const [taken, setTaken] = useState<string[]>([]);
  const choose = (path: string, fromFile: boolean) =>
    setTaken(fromFile ? [...taken, path] : taken.filter((one) => one !== path));
  return (
    <Shade isOpen isDismissable onOpenChange={(open) => !open && onLeave()}>
      <Sheet>
        <Dialog>
          <Heading slot="title">{file} has the truck otherwise</Heading>
          <p>
            Both axles stand on one truck. Of each figure, say whether the {truck}’s stands or the file’s; a
            figure taken from the file changes the truck for its other designs too.
          </p>
          <Table>
            <thead>
              <tr>
                <th scope="col">Figure</th>
                <th scope="col">{truck}</th>
                <th scope="col">File</th>
                <th scope="col">Which stands</th>
              </tr>
            </thead>
            <tbody>
              {differences.map(({ path, words, unit, truck: own, file: other }) => (
                <tr key={path}>
                  <th scope="row">{capital(words)}</th>
                  <td>{showTruck(own, unit, units)}</td>
                  <td>{showTruck(other, unit, units)}</td>
                  <td>
                    <Toggle
                      aria-label={`${taken.includes(path) ? "The file’s" : "The truck’s"} ${words}`}
                      isSelected={taken.includes(path)}
                      onChange={(on) => choose(path, on)}
                    >
                      {taken.includes(path) ? "The file’s" : "The truck’s"}
                    </Toggle>
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
          <div className="choices">
            <Button className="main" onPress={() => onChoose(taken)}>
              Bring it in
            </Button>
            <Button onPress={onLeave}>Leave it</Button>
          </div>
        </Dialog>
      </Sheet>
    </Shade>
  );
}
