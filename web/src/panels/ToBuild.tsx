/** Where another design of this axle is marked to be built than the one that is open: that is said. */

import type { Document } from "../document/document";
import { useChoice } from "../state/choice";

export function OtherToBuild({ document }: { document: Document }) {
  const choice = useChoice(document);
  if (!choice || choice.design === document.name) return null;
  return (
    <p role="note" style={{ borderLeft: "4px solid var(--stop)", padding: "0.25rem 0.5rem" }}>
      Another one is marked to be built: <strong>{choice.design}</strong>. This is {document.name}.
    </p>
  );
}
