/** Marking the design that is to be built, with its reason; the others stay. */

import { type SubmitEvent, useState } from "react";

import type { Document } from "../../document/document";
import { useChoice, withChoice } from "../../state/choice";
import { useDraft } from "../../state/drafts";
import { usePreferences } from "../../state/preferences";
import { useTruck } from "../../state/truck";
import { Button, Entries, Trouble, Typed } from "../../ui/controls";

export function BuildThis({ document }: { document: Document }) {
  const choice = useChoice(document);
  const { by, setBy } = usePreferences();
  const [reason, setReason] = useDraft("why this one", "");
  const [why, setWhy] = useState<string | null>(null);
  const put = (next: Parameters<typeof withChoice>[2]) => {
    const { truck, edit } = useTruck.getState();
    return truck ? edit(withChoice(truck.document, document, next)) : Promise.resolve(false);
  };
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const written = reason.trim();
    setWhy(written === "" ? "Write down why this one." : null);
    if (written === "") return;
    const at = new Date().toISOString();
    if (await put({ design: document.name, reason: written, by: by.trim(), at })) setReason("");
  };
  return (
    <section aria-label="To be built">
      <h2>To be built</h2>
      {choice ? (
        <p>
          <strong>{choice.design === document.name ? "This one" : choice.design}</strong>: {choice.reason}
          {choice.by && ` (${choice.by}`}
          {choice.by && choice.at && `, ${choice.at.slice(0, 10)}`}
          {choice.by && ")"}. <Button onPress={() => void put(null)}>Take the mark off</Button>
        </p>
      ) : (
        <p className="quiet">No design of this axle is marked yet. Cut sheet and Fit-up say which one is.</p>
      )}
      <Entries aria-label="Build this one" onSubmit={(event) => void submit(event)}>
        <Typed words="Why this one" value={reason} onChange={setReason} />
        <Typed words="Who" value={by} onChange={setBy} />
        <Button type="submit" className="main">
          Build this one
        </Button>
      </Entries>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </section>
  );
}
