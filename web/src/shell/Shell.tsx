/**
 * What outlives a change of area: the open design and its truck, the header, history, undo, what is chosen, the
 * scrubbers, the design behind. Areas stand inside it, one route each.
 */

import { type ReactNode, useCallback, useEffect, useState } from "react";
import { Outlet, useParams } from "react-router";
import styled from "styled-components";

import { theRegister } from "../api/register";
import type { Document } from "../document/document";
import { Button, Trouble } from "../ui/controls";
import { clearBehind, useBehind } from "./behind";
import { ConflictSheet } from "./ConflictSheet";
import { useDesign } from "./design";
import { Header } from "./Header";
import { HistorySheet } from "./HistorySheet";
import { usePreferences } from "./preferences";
import { scrubbed, toPose, useScrub } from "./scrub";
import { clearSelection } from "./selection";
import { SinceStrip } from "./SinceStrip";
import { saidTravel } from "./TravelStrip";
import { TruckSheet } from "./TruckSheet";

const Page = styled.div`
  height: 100%;
  display: grid;
  grid-template-rows: auto auto minmax(0, 1fr) auto;
  @media (max-width: 1000px) {
    height: auto;
    min-height: 100%;
  }
`;

const Foot = styled.footer`
  grid-row: 4;
  padding: 4px 14px 5px;
  font-size: 12.5px;
  color: var(--quiet);
  border-top: 1px solid var(--hair);
`;

const Middle = styled.main`
  padding: 40px;
  display: grid;
  gap: 16px;
  justify-items: start;
  align-content: start;
`;

/** Ctrl+Z and its likes, wherever no text is being typed. */
function useKeys() {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const { target } = event;
      const typing = target instanceof HTMLInputElement && target.type !== "range";
      if (!(event.ctrlKey || event.metaKey) || typing) return;
      const key = event.key.toLowerCase();
      const { undo, redo } = useDesign.getState();
      if (key === "y" || (key === "z" && event.shiftKey)) redo();
      else if (key === "z") undo();
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", press);
    return () => removeEventListener("keydown", press);
  }, []);
}

export function Shell() {
  const id = Number(useParams()["id"]);
  const document = useDesign((s) => s.document);
  const gone = useDesign((s) => s.sync.state === "gone");
  const open = useDesign((s) => s.open);
  useKeys();
  useEffect(() => {
    toPose({ travel: 0, articulation: 0 });
    clearSelection();
    clearBehind();
    void open(id);
  }, [id, open]);
  if (!document || gone) return <Opening id={id} />;
  return <Open id={id} document={document} />;
}

/** Before a design is there, or where there is none. */
function Opening({ id }: { id: number }) {
  const { trouble, sync, open, bringBack } = useDesign();
  const said = (what: ReactNode) => (
    <Page>
      <Header />
      <Middle style={{ gridRow: 3 }}>{what}</Middle>
    </Page>
  );
  if (sync.state === "gone")
    return said(
      <>
        <Trouble role="alert">{sync.why}</Trouble>
        <Button className="main" onPress={() => void bringBack()}>
          Bring it back
        </Button>
      </>,
    );
  if (trouble)
    return said(
      <>
        <Trouble role="alert">{trouble}</Trouble>
        <Button onPress={() => void open(id)}>Try again</Button>
      </>,
    );
  return said(<p role="status">Opening the design…</p>);
}

type Open = "history" | "truck" | null;

function Open({ id, document }: { id: number; document: Document }) {
  const build = useDesign((s) => s.stored?.build_name ?? "");
  const sync = useDesign((s) => s.sync);
  const units = usePreferences((s) => s.units);
  const [sheet, setSheet] = useState<Open>(null);
  const onHistory = useCallback(() => setSheet("history"), []);
  const onTruck = useCallback(() => setSheet("truck"), []);
  const onClose = useCallback(() => setSheet(null), []);
  return (
    <Page>
      <Header name={document.name} build={build} design={id} onHistory={onHistory} onTruck={onTruck} />
      <SinceStrip units={units} />
      <Outlet />
      <Status document={document} />
      {sheet === "history" && <HistorySheet id={id} document={document} units={units} onClose={onClose} />}
      {sheet === "truck" && <TruckSheet units={units} onClose={onClose} />}
      {sync.state === "conflict" && <ConflictSheet newest={sync.newest} mine={document} units={units} />}
    </Page>
  );
}

/** Where the axle stands, what is drawn behind, and the caution. */
function Status({ document }: { document: Document }) {
  const { travel } = scrubbed(document, useScrub());
  const units = usePreferences((s) => s.units);
  const behind = useBehind((s) => s.behind?.name);
  return (
    <Foot>
      <div>
        <strong>{saidTravel(travel, units)}.</strong>{" "}
        {behind
          ? `Drawn dashed behind: ${behind}. Beside the readings: how much more or less it has.`
          : "Choose a reading to see what it is, what moves it, and to pull it; choose a finding to see its cures."}
      </div>
      {theRegister().caution}
    </Foot>
  );
}
