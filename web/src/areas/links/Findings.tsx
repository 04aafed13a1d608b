/** The findings in order of severity; and the one move that answers them all. */

import { useState } from "react";
import styled from "styled-components";

import { type Finding, NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import { useBuild } from "../../design/build";
import { placed } from "../../design/document";
import { useScrub } from "../../solve/solver";
import { Button, Trouble } from "../../ui/controls";
import { increment, type Units } from "../../units/tape";
import { dropPreview, pressing, preview, takePreview, useBench } from "./bench";
import type { PaneProps } from "./Pane";
import { QUANTITIES, show, showChange } from "./readings";
import { Mark, SEVERITIES } from "./Severity";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  button.row {
    display: grid;
    grid-template-columns: 20px minmax(0, 1fr) auto;
    gap: 6px;
    align-items: center;
    width: 100%;
    min-height: 34px;
    padding: 2px 4px;
    border: 0;
    border-bottom: 1px solid var(--hair);
    background: none;
    text-align: left;
    cursor: pointer;
  }
  button.row:hover {
    background: var(--sheet);
  }
  .worth {
    font-weight: 600;
  }
`;

/** Go to the place in the travel where a finding is worst. */
export function goTo(finding: Finding) {
  useBench.getState().find(finding.id);
  if (finding.worst_at === null) return;
  if (finding.sweep === "heave") useScrub.setState({ travel: finding.worst_at, articulation: 0 });
  if (finding.sweep === "articulation") useScrub.setState({ travel: 0, articulation: finding.worst_at });
}

export const worth = (finding: Finding, units: Units): string =>
  finding.value === null || finding.unit === null
    ? ""
    : show(finding.value, QUANTITIES[finding.unit]!, units);

export function Findings(props: PaneProps) {
  const { solved, units, document } = props;
  if (!solved) return <p className="quiet">Working it out…</p>;
  const found = pressing(solved.answer.findings);
  const good = solved.answer.findings.filter((f) => f.severity === "good" && f.verdict === "inside").length;
  return (
    <>
      {found.length === 0 ? (
        <p>Nothing to stop for, to fix or to consider: {good} figures are inside their bands.</p>
      ) : (
        <List aria-label="Findings, the gravest first">
          {found.map((finding) => (
            <li key={finding.id}>
              <button type="button" className="row" data-finding={finding.id} onClick={() => goTo(finding)}>
                <Mark severity={finding.severity} />
                <span>
                  {SEVERITIES[finding.severity]}: {finding.title}
                </span>
                <span className="worth">{worth(finding, units)}</span>
              </button>
            </li>
          ))}
        </List>
      )}
      {found.length > 0 && <p className="quiet">{good} other figures are inside their bands.</p>}
      <Settle key={JSON.stringify(document)} {...props} empty={found.length === 0} />
    </>
  );
}

/** All at once: every free mount a little, until as much as can be is inside its band. */
function Settle({ document, solved, units, empty }: PaneProps & { empty: boolean }) {
  const bands = useBuild((s) => s.bands);
  const converge = useBench((s) => s.converge);
  const looking = useBench((s) => s.behind?.kind === "preview");
  const [found, setFound] = useState<Schemas["SettledOut"] | "asking" | "none" | { why: string } | null>(
    null,
  );
  const ask = async () => {
    setFound("asking");
    try {
      const { data, error } = await server.settle({ document, bands, increment: increment(units, "shop") });
      if (error !== undefined) setFound({ why: reasonOf(error) });
      else setFound(data ?? "none");
      if (data) preview("all of it", placed(document, data.at));
    } catch {
      setFound({ why: NO_SERVER });
    }
  };
  const title = (id: string) => solved?.answer.findings.find((f) => f.id === id)?.title.toLowerCase() ?? id;
  if (found === null || found === "asking")
    return (
      <div className="line">
        {!empty && (
          <Button isDisabled={found === "asking"} onPress={() => void ask()}>
            {found === "asking" ? "Looking for it…" : "Move several a little"}
          </Button>
        )}
        <Button onPress={() => converge(true)}>Converge on a point</Button>
      </div>
    );
  if (found === "none")
    return (
      <p role="status">
        No movement of the mounts that are free makes it better. Unlock some, or cure one finding alone.
      </p>
    );
  if ("why" in found) return <Trouble role="alert">{found.why}</Trouble>;
  return (
    <div role="status">
      <p>
        {Object.keys(found.at).length} mounts move. Better: {found.cures.map(title).join(", ")}.
        {found.worse.length > 0 && ` Worse: ${found.worse.map(title).join(", ")}.`}
      </p>
      <div className="line">
        <Button
          className="main"
          onPress={() => {
            preview("all of it", placed(document, found.at));
            takePreview();
          }}
        >
          Take it
        </Button>
        <Button
          onPress={() => {
            dropPreview();
            setFound(null);
          }}
        >
          Drop it
        </Button>
        {looking && <span className="quiet">It is drawn dashed behind.</span>}
      </div>
    </div>
  );
}

export { showChange };
