/**
 * What outlives a change of area: the open design and its truck, the header, history, undo, what is chosen, the
 * scrubbers, the design behind. Areas stand inside it, one route each.
 */

import { useCallback, useEffect, useMemo, useState } from "react";
import { Outlet, useLocation, useNavigate, useParams } from "react-router";
import styled from "styled-components";

import { theRegister } from "../api/register";
import type { Document } from "../document/document";
import { Button, Trouble } from "../ui/controls";
import { clearBehind, useBehind } from "../state/behind";
import { ConflictSheet } from "./ConflictSheet";
import { type Opened, useAsking } from "../state/areas";
import { useDesign } from "../state/design";
import { Header } from "./Header";
import { HistorySheet } from "./HistorySheet";
import { type Area, useKeys } from "./keys";
import { usePreferences } from "../state/preferences";
import { scrubbed, toPose, useScrub } from "../state/scrub";
import { clearSelection } from "../state/selection";
import { SinceStrip } from "../panels/SinceStrip";
import { saidTravel } from "../panels/TravelStrip";
import { Steps } from "./Steps";

const Page = styled.div`
  height: 100%;
  display: grid;
  grid-template-rows: auto auto auto minmax(0, 1fr) auto;
  grid-template-columns: minmax(0, 1fr);
  @media (max-width: 1000px) {
    height: auto;
    min-height: 100%;
  }
  @media print {
    height: auto;
  }
`;

/** Seen when Tab comes to them: past the header, to what is worked with. */
const Skip = styled.nav`
  position: absolute;
  z-index: 25;
  a {
    position: absolute;
    left: -9999px;
    white-space: nowrap;
    padding: 0.625rem 0.875rem;
    background: var(--accent);
    color: var(--on-accent);
  }
  a:focus {
    left: 0.5rem;
    top: 0.375rem;
  }
`;

const Foot = styled.footer`
  grid-row: 5;
  padding: 3px 0.875rem 4px;
  font-size: 0.7812rem;
  color: var(--quiet);
  border-top: 1px solid var(--hair);
`;

const Middle = styled.main`
  padding: 2.5rem;
  display: grid;
  gap: 1rem;
  justify-items: start;
  align-content: start;
`;

/** A page that is looked at again shows what was stored meanwhile, on another tablet or in another tab. */
function useReturning() {
  useEffect(() => {
    const back = () => {
      if (window.document.visibilityState === "visible") void useDesign.getState().catchUp();
    };
    window.document.addEventListener("visibilitychange", back);
    return () => window.document.removeEventListener("visibilitychange", back);
  }, []);
}

export function Shell() {
  const id = Number(useParams()["id"]);
  const document = useDesign((s) => s.document);
  const gone = useDesign((s) => s.sync.state === "gone");
  const open = useDesign((s) => s.open);
  useReturning();
  useEffect(() => {
    toPose({ travel: 0, articulation: 0 });
    clearSelection();
    clearBehind();
    void open(id);
  }, [id, open]);
  const opened = gone ? null : document;
  const [sheet, setSheet] = useState<OpenSheet>(null);
  const onHistory = useCallback(() => setSheet("history"), []);
  const open_ = useMemo(() => opened && { document: opened, design: id }, [opened, id]);
  return (
    <Page>
      <Skips />
      <Header open={open_} onHistory={onHistory} />
      {opened ? (
        <Open id={id} document={opened} sheet={sheet} setSheet={setSheet} />
      ) : (
        <Middle style={{ gridRow: 4 }}>
          <Opening id={id} />
        </Middle>
      )}
    </Page>
  );
}

/** Before a design is there, or where there is none. */
function Opening({ id }: { id: number }) {
  const { trouble, sync, open, bringBack } = useDesign();
  if (sync.state === "gone")
    return (
      <>
        <Trouble role="alert">{sync.why}</Trouble>
        <Button className="main" onPress={() => void bringBack()}>
          Bring it back
        </Button>
      </>
    );
  if (trouble)
    return (
      <>
        <Trouble role="alert">{trouble}</Trouble>
        <Button onPress={() => void open(id)}>Try again</Button>
      </>
    );
  return <p role="status">Opening the design…</p>;
}

/** What stands beside the drawing in each area. */
const PANES: Record<string, string> = {
  room: "To the room",
  corners: "To the corners",
  cycle: "To the cycle",
};

type OpenSheet = "history" | null;

/** For keys: past the header, to what is worked with. */
function Skips() {
  const area = useLocation().pathname.split("/").at(-1) ?? "";
  return (
    <Skip>
      {area !== "cycle" && <a href="#floor">To the drawing</a>}
      {area === "links" && <a href="#readings">To the readings</a>}
      <a href="#pane">{PANES[area] ?? "To the findings"}</a>
    </Skip>
  );
}

interface OpenProps {
  id: number;
  document: Document;
  sheet: OpenSheet;
  setSheet: (sheet: OpenSheet) => void;
}

function Open({ id, document, sheet, setSheet }: OpenProps) {
  useEffect(() => useDesign.setState({ drawn: document }), [document]);
  const sync = useDesign((s) => s.sync);
  const units = usePreferences((s) => s.units);
  const onClose = useCallback(() => setSheet(null), [setSheet]);
  const navigate = useNavigate();
  const area = useLocation().pathname.split("/").at(-1) ?? "";
  const ask = useCallback(
    (what: Area | Opened) => {
      if (what === "room" || what === "cycle" || what === "corners")
        void navigate(`/designs/${id}/${area === what ? "links" : what}`);
      else useAsking.getState().ask(what);
    },
    [navigate, id, area],
  );
  useKeys(ask);
  return (
    <>
      <Steps design={id} document={document} />
      <SinceStrip units={units} />
      <Outlet />
      <Status document={document} />
      {sheet === "history" && <HistorySheet id={id} document={document} units={units} onClose={onClose} />}
      {sync.state === "conflict" && <ConflictSheet newest={sync.newest} mine={document} units={units} />}
    </>
  );
}

/** Where the axle stands, what is drawn behind, and the caution. */
function Status({ document }: { document: Document }) {
  const { travel } = scrubbed(document, useScrub());
  const units = usePreferences((s) => s.units);
  const behind = useBehind((s) => s.behind?.name);
  const atLinks = useLocation().pathname.endsWith("/links");
  return (
    <Foot>
      {atLinks && (
        <>
          <strong>{saidTravel(travel, units)}.</strong>{" "}
        </>
      )}
      {behind && atLinks && `Drawn dashed behind: ${behind}. `}
      {theRegister().caution}
    </Foot>
  );
}
