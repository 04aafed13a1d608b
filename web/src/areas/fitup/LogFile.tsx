/** The fit-up as a file of its own: saved, and brought in beside what is kept. */

import { useState } from "react";
import { FileTrigger } from "react-aria-components";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { recordOf, withRecord } from "../../state/fitUp";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Trouble } from "../../ui/controls";
import { giveText, plainName } from "../../ui/giving";

type Brought = Schemas["FitBroughtOut"];

export function LogFile({ document, truck }: { document: Document; truck: TruckDocument }) {
  const record = recordOf(truck, document);
  const [found, setFound] = useState<Brought | null>(null);
  const [why, setWhy] = useState<string | null>(null);
  const tried = async (what: () => Promise<string | null>) => {
    setFound(null);
    setWhy(await what().catch(() => NO_SERVER));
  };
  const save = async () => {
    const { data, error } = await server.fitFile({ document, record });
    if (!data) return reasonOf(error);
    giveText(data.text, "application/json", `${plainName(document.name)}-fit-up.json`);
    return null;
  };
  const bring = async (files: FileList | null) => {
    const file = files?.[0];
    if (!file) return null;
    const text = await file.text();
    for (;;) {
      const before = useTruck.getState().truck?.document ?? truck;
      const asked = { document, record: recordOf(before, document), text };
      const { data, error } = await server.bringFit(asked);
      if (!data) return `${file.name} was not brought in. ${reasonOf(error)}`;
      // what was taken down meanwhile is kept: it is brought in beside that
      if ((useTruck.getState().truck?.document ?? truck) !== before) continue;
      if (await useTruck.getState().edit(withRecord(before, document, data.record))) setFound(data);
      return null;
    }
  };
  return (
    <section aria-label="The log as a file">
      <div style={{ display: "flex", gap: "0.375rem", flexWrap: "wrap" }}>
        <Button onPress={() => void tried(save)}>Save the log as a file</Button>
        <FileTrigger acceptedFileTypes={[".json"]} onSelect={(files) => void tried(() => bring(files))}>
          <Button>Bring a log in</Button>
        </FileTrigger>
      </div>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
      {found && <Said found={found} />}
    </section>
  );
}

function Said({ found: { added, there, differ, strange } }: { found: Brought }) {
  const lost = Object.values(strange);
  return (
    <div role="status">
      <p>{`${added} ${added === 1 ? "entry is" : "entries are"} new, ${there} ${there === 1 ? "was" : "were"} here already.`}</p>
      {differ.length > 0 && (
        <p>{`Changed in both, and kept as it was here: ${differ.join(", ")}. Look at both, and type what is right.`}</p>
      )}
      {lost.length > 0 && (
        <p>{`Kept, and not used: ${lost.length} of what this design has not (${[...new Set(lost)].join("; ")}).`}</p>
      )}
    </div>
  ); // prettier-ignore
}
