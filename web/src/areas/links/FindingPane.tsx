/** One finding: why it matters, its band, who would disagree, and the moves that cure it. */

import { useEffect, useState } from "react";
import styled from "styled-components";

import { type Finding, type Schemas, server } from "../../api/client";
import { useBuild } from "../../design/build";
import { placed } from "../../design/document";
import { Button, Trouble } from "../../ui/controls";
import { increment, length, type Units } from "../../units/tape";
import { useAsked } from "./asking";
import { dropPreview, preview, takePreview } from "./bench";
import { worth } from "./Findings";
import { moveWords } from "./moves";
import type { PaneProps } from "./Pane";
import { bandWords, QUANTITIES, show } from "./readings";
import { Mark, SEVERITIES } from "./Severity";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
  li {
    border: 1px solid var(--hair);
    border-radius: 4px;
    padding: 4px 8px;
    display: grid;
    gap: 2px;
  }
  li[data-shown="true"] {
    border-color: var(--accent);
    background: var(--accent-soft);
  }
`;

export const whereWords = (finding: Finding, units: Units): string => {
  if (finding.worst_at === null || Math.abs(finding.worst_at) < 0.05) return "";
  if (finding.sweep === "heave")
    return `Worst at ${length(Math.abs(finding.worst_at), units)} of ${finding.worst_at < 0 ? "droop" : "bump"}.`;
  return `Worst at ${Math.abs(finding.worst_at).toFixed(1)}° of articulation, ${finding.worst_at < 0 ? "right" : "left"} wheel up.`;
};

export function FindingPane({ document, solved, units, finding }: PaneProps & { finding: Finding }) {
  const bands = useBuild((s) => s.bands);
  const quantity = finding.unit ? QUANTITIES[finding.unit]! : "length";
  const curable = finding.severity !== "good" && finding.id === finding.figure;
  const key = curable ? JSON.stringify([document, bands, finding.id, units]) : null;
  const asked = useAsked(key, () =>
    server.cures({ document, bands, finding: finding.id, increment: increment(units, "shop") }),
  );
  const stale = asked.key !== key;
  return (
    <>
      <p className="line">
        <Mark severity={finding.severity} />
        <strong>
          {SEVERITIES[finding.severity]}
          {finding.value !== null && `: ${worth(finding, units)}`}
        </strong>
        {finding.source && (
          <span className="quiet">
            wanted: {bandWords(finding.low, finding.high, quantity, units)} ({finding.source})
          </span>
        )}
      </p>
      <p>
        {finding.message} {whereWords(finding, units)} {finding.remedy}
      </p>
      {curable && (
        <>
          {(stale || asked.state === "asking") && (
            <p role="status" className="quiet">
              Looking for cures…
            </p>
          )}
          {!stale && asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
          {!stale && asked.data && (
            <Cures key={key} {...{ document, solved, units, finding }} cures={asked.data} />
          )}
        </>
      )}
      <p className="quiet">Who would disagree: {finding.disagrees}</p>
    </>
  );
}

function Cures(
  props: Pick<PaneProps, "document" | "solved" | "units"> & { finding: Finding; cures: Schemas["CureOut"][] },
) {
  const { document, solved, units, finding, cures } = props;
  const [shown, setShown] = useState<number | null>(null);
  useEffect(() => dropPreview, []);
  const titles = new Map(solved?.answer.findings.map((f) => [f.id, f.title.toLowerCase()]));
  const names = (ids: string[]) => ids.map((id) => titles.get(id) ?? id).join(", ");
  if (cures.length === 0)
    return <p role="status">No single move of a free mount within {length(200, units)} cures it.</p>;
  return (
    <List aria-label="Cures, the least costly first">
      {cures.map((cure, n) => {
        const after = cure.figures[finding.id];
        const others = cure.cures.filter((id) => id !== finding.id);
        const words = moveWords(document, cure.mounts, cure.axis, cure.by, units);
        return (
          <li
            key={words}
            data-shown={shown === n}
            onKeyDown={(event) => {
              if (shown !== n || event.key !== "Escape") return;
              event.preventDefault();
              dropPreview();
              setShown(null);
            }}
          >
            <span>
              {words}
              {after !== undefined && after !== null && finding.unit && (
                <>
                  : <strong>{show(after, QUANTITIES[finding.unit]!, units)}</strong>
                </>
              )}
            </span>
            {(others.length > 0 || cure.worse.length > 0) && (
              <span className="quiet">
                {others.length > 0 && `Also better: ${names(others)}. `}
                {cure.worse.length > 0 && `Worse: ${names(cure.worse)}.`}
              </span>
            )}
            <span className="line">
              {shown === n ? (
                <>
                  <Button className="main" autoFocus onPress={takePreview}>
                    Take it
                  </Button>
                  <Button
                    onPress={() => {
                      dropPreview();
                      setShown(null);
                    }}
                  >
                    Drop it
                  </Button>
                </>
              ) : (
                <Button
                  onPress={() => {
                    preview(words, placed(document, cure.at));
                    setShown(n);
                  }}
                >
                  Look at it
                </Button>
              )}
            </span>
          </li>
        );
      })}
    </List>
  );
}
