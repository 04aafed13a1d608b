/** In which order brackets are welded out, which way each weld pulls, and what is measured again after. */

import { server } from "../../api/client";
import type { Document } from "../../document/document";
import { capital } from "../../document/parts";
import { useAsked } from "../../solve/asking";
import { Trouble } from "../../ui/controls";

export function WeldOrder({ document }: { document: Document }) {
  const key = JSON.stringify(document);
  const asked = useAsked(key, (signal) => server.weldOrder({ document }, signal));
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  const steps = asked.key === key ? asked.data : undefined;
  if (!steps) return <p role="status">Putting the brackets in order…</p>;
  if (steps.length === 0)
    return (
      <p className="quiet">No bracket is drawn yet (Cut sheet, Brackets): weld left and right in turn.</p>
    );
  return (
    <>
      <ol aria-label="Order of welding" style={{ margin: "0.25rem 0", paddingLeft: 22 }}>
        {steps.map((one) => (
          <li key={one.bracket}>
            {capital(one.words)}: {one.pulls}. <span className="quiet">Then measure {one.then}.</span>
          </li>
        ))}
      </ol>
      <p className="quiet">Short runs, left and right in turn, cooled between; spacers stay in.</p>
    </>
  );
}
