/** Below the readings: the findings; or the one that is chosen; or the reading that is chosen. */

import { memo, type ReactNode, type RefObject, useEffect, useRef } from "react";
import styled from "styled-components";

import { server } from "../../api/client";
import { theRegister } from "../../api/register";
import type { Document } from "../../document/document";
import { useDesign } from "../../state/design";
import { Button, Choice } from "../../ui/controls";
import { useSelection } from "../../state/selection";
import { useAsked } from "../../solve/asking";
import { ConvergePane } from "./ConvergePane";
import { FindingPane, type PaneProps } from "../../panels/FindingPane";
import { Findings } from "./Findings";
import { Gaps } from "../../panels/Gaps";
import { ReadingPane } from "./ReadingPane";
import { readingsOf } from "../../figures/readings";
import { useTruck } from "../../state/truck";

const Area = styled.section`
  padding: 0.5rem 0.75rem 0.625rem 0.875rem;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.5rem;
  align-content: start;
  overflow-y: auto;
  min-height: 0;
  contain: layout paint style;
  h2 {
    font-size: 1rem;
    font-weight: 600;
  }
  .line {
    display: flex;
    gap: 0.375rem;
    align-items: center;
    flex-wrap: wrap;
  }
  .top {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
`;

/** What shows in the pane: when it changes under the hand of a keyboard, focus goes on where the eye does. */
function useFocusKept(shows: string) {
  const place = useRef<HTMLElement>(null);
  const before = useRef(shows);
  useEffect(() => {
    const was = before.current;
    before.current = shows;
    if (was === shows || document.activeElement !== document.body) return;
    const row = document.querySelector<HTMLElement>(
      `[data-finding="${CSS.escape(was)}"], [data-reading="${CSS.escape(was)}"]`,
    );
    (shows === LIST && row ? row : place.current)?.focus();
  }, [shows]);
  return place;
}

const LIST = "list";

export function Pane(props: PaneProps) {
  const { finding: findingId, reading: readingId, converging, find, read, converge } = useSelection();
  const finding = props.solved?.answer.findings.find((f) => f.id === findingId);
  const reading = readingsOf(props.document).find((r) => r.id === readingId);
  const place = useFocusKept(finding?.id ?? reading?.id ?? (converging ? "converging" : LIST));
  if (finding)
    return (
      <Framed place={place} title={finding.title} onBack={() => find(null)}>
        <FindingPane key={finding.id} {...props} finding={finding} />
      </Framed>
    );
  if (reading)
    return (
      <Framed place={place} title={reading.name} onBack={() => read(null)}>
        <ReadingPane key={reading.id} {...props} reading={reading} />
      </Framed>
    );
  if (converging)
    return (
      <Framed place={place} title="Converge on a point" onBack={() => converge(false)}>
        <ConvergePane {...props} />
      </Framed>
    );
  return (
    <Area ref={place} id="pane" tabIndex={-1} aria-label="Findings" data-testid="pane">
      <Intent use={props.document.use} school={props.document.school} />
      <Buys {...props} />
      <Findings {...props} />
      <Gaps document={props.document} units={props.units} />
    </Area>
  );
}

function Framed(props: {
  place: RefObject<HTMLElement | null>;
  title: string;
  onBack: () => void;
  children: ReactNode;
}) {
  const { place, title, onBack, children } = props;
  return (
    <Area
      ref={place}
      id="pane"
      tabIndex={-1}
      aria-label={title}
      data-testid="pane"
      style={{ order: -1 }}
      onKeyDown={(event) => {
        if (event.key === "Escape" && !event.defaultPrevented) onBack();
      }}
    >
      <div className="top">
        <h2>{title}</h2>
        <Button onPress={onBack}>All findings</Button>
      </div>
      {children}
    </Area>
  );
}

/** What the school comes to in this design, said from its own curves. */
function Buys({ document, units }: PaneProps) {
  const key = JSON.stringify([document, units]);
  const asked = useAsked(key, (signal) => server.school({ document, units }, signal));
  return asked.data?.says ? (
    <p className="quiet" data-stale={asked.key !== key}>
      {asked.data.says}
    </p>
  ) : null;
}

/** What the truck is built for and this axle's school: both change the bands. */
const Intent = memo(function Intent({ use, school }: Pick<Document, "use" | "school">) {
  const { uses, schools } = theRegister();
  const setUse = (chosen: (typeof uses)[number]["id"]) => {
    const { truck, edit } = useTruck.getState();
    if (truck) void edit({ ...truck.document, use: chosen });
  };
  const setSchool = (chosen: (typeof schools)[number]["id"]) => {
    const { document, edit } = useDesign.getState();
    if (document) edit({ ...document, school: chosen });
  };
  return (
    <div className="line">
      <Choice
        label="Built for"
        value={use ?? "trail"}
        options={uses.map((u) => [u.id, u.name] as const)}
        onChange={setUse}
      />
      <Choice
        label="School"
        value={school ?? "numbers_first"}
        options={schools.map((s) => [s.id, s.name] as const)}
        onChange={setSchool}
      />
    </div>
  );
});
