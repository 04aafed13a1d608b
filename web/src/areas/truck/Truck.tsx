/** The Truck area: what both axles share, the raw readings it was worked out from, and what they come to. */

import { useEffect } from "react";
import styled from "styled-components";

import { server } from "../../api/client";
import type { Document } from "../../document/document";
import { useDesign } from "../../state/design";
import { usePreferences } from "../../state/preferences";
import { NoRails } from "../../panels/TruckFigures";
import { type TruckDocument, useTruck } from "../../state/truck";
import { useAsked } from "../../solve/asking";
import { Trouble } from "../../ui/controls";
import { Both, usePair } from "./Both";
import { Cases } from "./Cases";
import { MARKED } from "./Chips";
import { Drawn } from "./Drawn";
import { Frame } from "./Frame";
import { Jobs } from "./Jobs";
import { OwnAxle } from "./OwnAxle";
import { MarkForm } from "./MarkForm";
import { ReadingForm } from "./ReadingForm";
import { ReadingList } from "./ReadingList";
import { Results } from "./Results";
import { Rules } from "./Rules";

const Area = styled.main`
  grid-row: 4;
  min-height: 0;
  overflow-y: auto;
  display: grid;
  grid-template-columns: minmax(22rem, 5fr) minmax(0, 7fr);
  align-content: start;
  gap: 0 1.5rem;
  padding: 0.5rem 1.25rem 1.5rem;
  @media (max-width: 1000px) {
    grid-template-columns: minmax(0, 1fr);
  }
  .wide {
    grid-column: 1 / -1;
  }
  .spoken {
    position: absolute;
    clip-path: inset(50%);
  }
  h2 {
    font-size: 1.0625rem;
    font-weight: 600;
    margin: 0.75rem 0 0.375rem;
  }
  h3 {
    font-weight: 600;
    margin-top: 0.5rem;
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  a {
    color: var(--accent);
  }
`;

export function Truck() {
  const document = useDesign((s) => s.document);
  const { truck, trouble } = useTruck();
  useEffect(() => window.document.querySelector<HTMLElement>("main h2")?.focus(), []);
  if (!document) return null;
  return (
    <Area>
      {trouble && (
        <Trouble className="wide" role="alert">
          {trouble}
        </Trouble>
      )}
      {truck ? (
        <Open document={document} truck={truck.document} />
      ) : (
        !trouble && <p role="status">Fetching the truck…</p>
      )}
    </Area>
  );
}

/** The open design and its build, by their numbers. */
const useIds = () => {
  const stored = useDesign((s) => s.stored);
  return { design: stored?.design ?? 0, build: stored?.build ?? 0 };
};

function Open({ document, truck }: { document: Document; truck: TruckDocument }) {
  const units = usePreferences((s) => s.units);
  const ids = useIds();
  const standing = usePair({ open: document, ...ids });
  const key = JSON.stringify([truck, document, units]);
  const asked = useAsked(key, (signal) => server.baseline({ truck, designs: [document], units }, signal));
  return (
    <>
      <section className="wide" id="floor" tabIndex={-1} aria-label="The whole truck">
        <h2 tabIndex={-1} className="spoken">
          In force
        </h2>
        <Drawn truck={truck} pair={standing.pair} units={units} />
        <p className="quiet">
          {MARKED}. {truck.datum ? `Stations count from: ${truck.datum}. ` : ""}Press a figure to set it, or
          to say where it comes from. Readings propose, you take; verdicts that hang on a guess say so.{" "}
          <a href={`/api/builds/${ids.build}/truck/file`}>Save the truck’s file</a>
        </p>
        {!truck.rails && <NoRails document={truck} />}
      </section>
      <section aria-label="Axles">
        <OwnAxle document={document} truck={truck} units={units} />
        <Both {...{ truck, units, standing }} />
        <Cases document={document} truck={truck} units={units} />
        <Frame truck={truck} units={units} />
        <Jobs truck={truck} units={units} />
        <Rules {...{ truck, document, units }} />
      </section>
      <section id="pane" tabIndex={-1} aria-label="Baseline">
        <h2>What the readings come to</h2>
        {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
        {asked.data ? (
          <Results told={asked.data} {...{ truck, document, units }} />
        ) : (
          asked.state === "asking" && <p role="status">Working it out…</p>
        )}
        <h2 id="readings" tabIndex={-1}>
          Readings
        </h2>
        <ReadingList truck={truck} told={asked.data} units={units} />
        <ReadingForm truck={truck} units={units} />
        <MarkForm truck={truck} units={units} />
      </section>
    </>
  );
}
