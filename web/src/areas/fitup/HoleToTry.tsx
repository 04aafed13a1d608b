/** Which change of hole helps against what was felt last, of a design with rows of holes. */

import type { Schemas } from "../../api/client";
import { server } from "../../api/client";
import { type Document, words } from "../../document/document";
import { QUANTITIES, show } from "../../figures/readings";
import { useAsked } from "../../solve/asking";
import { Trouble } from "../../ui/controls";
import { length, type Units } from "../../units/tape";
import type { Drive } from "../../state/fitUp";

type Try = Schemas["HoleToTry"];

const isRacked = ({ room }: Document): boolean =>
  (room?.zones ?? []).some(({ region }) => region.kind === "holes");

export function HoleToTry(props: { document: Document; felt: Drive["felt"]; units: Units }) {
  const { document, felt, units } = props;
  const racked = isRacked(document);
  const key = racked ? JSON.stringify([document, felt]) : null;
  const asked = useAsked<Try[]>(key, (signal) => server.holeToTry({ document, felt }, signal), 300);
  if (!racked) return null;
  return (
    <section aria-label="Which hole to try" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      <h2>Which hole to try</h2>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!asked.data && asked.state === "asking" && <p role="status">Trying every hole…</p>}
      {asked.data?.length === 0 && (
        <p>No one change of hole brings what stands out nearer to its band without a new stop.</p>
      )}
      <ul style={{ margin: 0, paddingLeft: 18 }}>
        {asked.data?.map((one) => (
          <li key={one.finding}>
            <Said {...{ one, units }} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Said({ one, units }: { one: Try; units: Units }) {
  const quantity = QUANTITIES[one.unit ?? "mm"];
  const longer = Object.entries(one.longer).map(
    ([bar, by]) =>
      `${words(bar).toLowerCase()} ${length(Math.abs(by), units)} ${by > 0 ? "longer" : "shorter"}`,
  );
  return (
    <>
      <strong>
        {one.title} {show(one.now, quantity, units)} to {show(one.then, quantity, units)}
        {one.inside ? ", inside its band" : ", nearer to its band"}
      </strong>
      : {one.mounts}, from hole {one.was} to hole {one.hole}
      {longer.length > 0 && `; ${longer.join(", ")}`}.
      {one.graver.length > 0 && ` Graver then: ${one.graver.join(", ").toLowerCase()}.`}
    </>
  ); // prettier-ignore
}
