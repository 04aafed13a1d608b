/** Findings as a list, the gravest first: each goes to the place and the pose where it is worst. */

import { memo } from "react";

import type { Finding } from "../api/client";
import { worth } from "../figures/readings";
import { Mark, SEVERITIES } from "../figures/Severity";
import { List } from "../ui/controls";
import type { Units } from "../units/tape";
import { goTo } from "../state/selection";
import { useSolver } from "../state/solver";

export function FindingList({ findings, units }: { findings: readonly Finding[]; units: Units }) {
  return (
    <List aria-label="Findings, the gravest first">
      {findings.map((finding) => (
        <Line
          key={finding.id}
          id={finding.id}
          severity={finding.severity}
          title={finding.title}
          worth={worth(finding, units)}
        />
      ))}
    </List>
  );
}

/** One line of the list; of plain values, so that what has not changed is not drawn again. */
const Line = memo(function Line(props: {
  id: string;
  severity: Finding["severity"];
  title: string;
  worth: string;
}) {
  const { id, severity, title } = props;
  return (
    <li>
      <button type="button" className="row" data-finding={id} onClick={() => goToId(id)}>
        <Mark severity={severity} />
        <span>
          {SEVERITIES[severity]}: {title}
        </span>
        <span className="worth">{props.worth}</span>
      </button>
    </li>
  );
});

/** By its id, so that a line stays the same while its figure changes. */
function goToId(id: string) {
  const finding = useSolver.getState().solved?.answer.findings.find((f) => f.id === id);
  if (finding) goTo(finding);
}
