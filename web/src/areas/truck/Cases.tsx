/** Payload cases: how the open design is judged under each load of the truck, side by side. */

import { type CycleAnswer, server } from "../../api/client";
import type { Document } from "../../document/document";
import { judged, type Reading, readingsOf, show, verdictOf } from "../../figures/readings";
import { showTruck } from "../../figures/truck";
import type { TruckDocument } from "../../state/truck";
import { useAsked } from "../../solve/asking";
import { Trouble } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { Scrolled } from "./Scrolled";

type Case = TruckDocument["cases"][number];

/** The design under a load: the truck's mass, its share and its center of gravity as they are then. */
export const under = (document: Document, { mass, front_share, cg_height }: Case): Document => ({
  ...document,
  vehicle: { ...document.vehicle, mass, front_share, cg_height },
});

/** Figures that a load changes in one case or another: those that say something else than in force. */
export function changing(
  readings: Reading[],
  now: CycleAnswer,
  loaded: CycleAnswer[],
  units: Units,
): Reading[] {
  const said = (answer: CycleAnswer, { id, quantity }: Reading) =>
    show(judged(answer, id)?.value, quantity, units);
  return readings.filter((reading) => loaded.some((answer) => said(answer, reading) !== said(now, reading)));
}

export function Cases({
  document,
  truck,
  units,
}: {
  document: Document;
  truck: TruckDocument;
  units: Units;
}) {
  const { cases } = truck;
  const key = cases.length === 0 ? null : JSON.stringify([document, cases]);
  const asked = useAsked<CycleAnswer[]>(key, async () => {
    const answers = await Promise.all(
      [document, ...cases.map((one) => under(document, one))].map((one) =>
        server.cycle({ document: one, travel: 0, articulation: 0 }),
      ),
    );
    const failed = answers.find((answer) => answer.data === undefined);
    return failed
      ? { error: failed.error, status: failed.status }
      : { data: answers.flatMap((answer) => answer.data ?? []), status: 200 };
  });
  if (cases.length === 0) return null;
  const answers = asked.data;
  return (
    <>
      <h2>Under other loads</h2>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {answers && answers.length === cases.length + 1 && (
        <CaseTable {...{ document, truck, cases, answers, units }} />
      )}
    </>
  );
}

interface Judged {
  document: Document;
  truck: TruckDocument;
  cases: readonly Case[];
  answers: CycleAnswer[];
  units: Units;
}

function CaseTable({ document, truck, cases, answers, units }: Judged) {
  const [now, ...loaded] = answers;
  const rows = changing(readingsOf(document), now!, loaded, units);
  const loads = [{ ...truck.vehicle, name: "In force" }, ...cases];
  return (
    <Scrolled>
      <table>
        <thead>
          <tr>
            <th scope="col">{document.name}</th>
            {loads.map((load) => (
              <th key={load.name} scope="col">
                {load.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">Mass, share in front</th>
            {loads.map((load) => (
              <td key={load.name}>
                {showTruck(load.mass, "kg", units)}, {showTruck(load.front_share, "share", units)}
              </td>
            ))}
          </tr>
          {rows.map(({ id, name, quantity }) => (
            <tr key={id}>
              <th scope="row">{name}</th>
              {answers.map((answer, n) => {
                const finding = judged(answer, id);
                return (
                  <td key={loads[n]!.name}>
                    {show(finding?.value, quantity, units)} {finding && verdictOf(finding)}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && <p className="quiet">No judged figure changes under these loads.</p>}
    </Scrolled>
  );
}
