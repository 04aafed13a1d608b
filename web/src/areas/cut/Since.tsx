/** What is made otherwise since the design was last taken to the shop, and its files of then. */

import { server } from "../../api/client";
import type { Document } from "../../document/document";
import { useAsked } from "../../solve/asking";
import { useTaken } from "../../state/taken";
import { Button, Trouble } from "../../ui/controls";
import { inUnits, type Units } from "../../units/tape";

interface Of {
  id: number;
  document: Document;
  units: Units;
}

export function Since({ id, document, units }: Of) {
  const taken = useTaken((s) => s.taken[`${id}`]);
  const key = taken ? JSON.stringify([taken, document, units]) : null;
  const asked = useAsked(key, (signal) =>
    server.cutSince({ before: taken!.document, document, units }, signal),
  );
  if (!taken) return null;
  const open = () =>
    window.open(
      `/api/designs/${id}/shop.zip?units=${units}&revision=${taken.revision}`,
      "_blank",
      "noopener",
    );
  const lines = asked.key === key ? asked.data?.lines : undefined;
  return (
    <section aria-label="Since it was taken to the shop">
      <h2>
        Since revision {taken.revision} was taken, {taken.day}
      </h2>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!lines && asked.state === "asking" && <p role="status">Comparing…</p>}
      {lines?.length === 0 && <p>Nothing that is sawn, cut, drilled or bought is otherwise.</p>}
      {lines && lines.length > 0 && (
        <ul style={{ margin: "0.25rem 0", paddingLeft: 18 }}>
          {lines.map((line) => (
            <li key={line}>{inUnits(line, units)}</li>
          ))}
        </ul>
      )}
      <Button onPress={open}>Files of revision {taken.revision} again</Button>
    </section>
  ); // prettier-ignore
}
