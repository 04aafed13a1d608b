/** The design's revisions in shop words, what may be drawn behind it, and other ways to go from it. */

import { type SubmitEvent, useEffect, useState } from "react";
import { Dialog, Heading } from "react-aria-components";
import { useNavigate } from "react-router";
import styled from "styled-components";

import {
  type Answer,
  type Build,
  NO_SERVER,
  reasonOf,
  type Revision,
  type Schemas,
  server,
} from "../api/client";
import { making } from "../state/making";
import type { Document } from "../document/document";
import { useDraft } from "../state/drafts";
import { useDesign } from "../state/design";
import { Button, Entries, Shade, Sheet, Trouble } from "../ui/controls";
import { length, type Units } from "../units/tape";
import { useBehind } from "../state/behind";
import { onNewestTruck } from "../state/truck";

const Start = styled(Entries)`
  grid-template-columns: 1fr 1fr auto;
  gap: 0.5rem;
`;

const Body = styled.div`
  display: grid;
  gap: 0.875rem;
  h3 {
    font-weight: 600;
    font-size: 1rem;
    margin-bottom: 4px;
  }
  ol,
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    max-height: 34vh;
    overflow-y: auto;
  }
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0.625rem;
    align-items: center;
    padding: 4px 2px;
    border-bottom: 1px solid var(--hair);
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  .older {
    margin-top: 0.5rem;
  }
  .pair {
    display: flex;
    gap: 0.375rem;
  }
`;

/** A change between two revisions as a shop says it: "upper frame mounts up 1/2 in". */
export function changeWords(change: Schemas["Change"], units: Units): string {
  if (!change.axis || typeof change.by !== "number") return change.what;
  const ways = { x: ["forward", "back"], y: ["outward", "inward"], z: ["up", "down"] }[change.axis];
  return `${change.what} ${ways[change.by > 0 ? 0 : 1]!} ${length(Math.abs(change.by), units)}`;
}

/** What a revision changed; what is too small for a tape to show is not said one by one. */
export function revisionWords(changes: Schemas["Change"][], units: Units, first: boolean): string {
  if (changes.length === 0) return first ? "first stored" : "stored anew";
  const shown = changes.filter(
    (c) => typeof c.by !== "number" || /[1-9]/.test(length(Math.abs(c.by), units)),
  );
  return shown.length
    ? shown.map((c) => changeWords(c, units)).join("; ")
    : "mounts by less than a tape shows";
}

const when = (at: string) =>
  new Date(at).toLocaleString("en-US", { dateStyle: "medium", timeStyle: "short" });

const DAMAGED = "cannot be read: the store is damaged here";

type Lines = Schemas["RevisionLine"][];

/** The design's revisions and its build's other designs; and fetching one of them to look at. */
function useHistory(id: number) {
  const [lines, setLines] = useState<Lines | null>(null);
  const [before, setBefore] = useState<number | null>(null);
  const [others, setOthers] = useState<Build["designs"]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const own = useDesign((s) => s.stored?.build);
  const end = useDesign((s) => s.document?.axle.end); // only axles of one end can be compared
  useEffect(() => {
    let gone = false;
    Promise.all([server.revisions(id, null), own === undefined ? null : server.build(own)])
      .then(([revisions, build]) => {
        if (gone) return;
        if (revisions.data) {
          setLines(revisions.data.lines);
          setBefore(revisions.data.before);
        } else setTrouble(reasonOf(revisions.error));
        setOthers(build?.data?.designs.filter((d) => d.id !== id && !d.damaged && d.end === end) ?? []);
      })
      .catch(() => !gone && setTrouble(NO_SERVER));
    return () => {
      gone = true;
    };
  }, [id, own, end]);
  const fetched = (ask: Promise<Answer<Revision>>, then: (revision: Revision) => void) =>
    void ask
      .then(({ data, error }) => (data ? then(data) : setTrouble(reasonOf(error))))
      .catch(() => setTrouble(NO_SERVER));
  const older = () =>
    void server
      .revisions(id, before)
      .then(({ data, error }) => {
        if (data) {
          setLines((shown) => [...(shown ?? []), ...data.lines]);
          setBefore(data.before);
        } else setTrouble(reasonOf(error));
      })
      .catch(() => setTrouble(NO_SERVER));
  return { lines, older: before === null ? null : older, others, trouble, setTrouble, fetched };
}

interface HistoryProps {
  id: number;
  document: Document;
  units: Units;
  onClose: () => void;
}

export function HistorySheet({ id, document, units, onClose }: HistoryProps) {
  const { lines, older, others, trouble, setTrouble, fetched } = useHistory(id);
  const pin = (name: string, pinned: Document) => {
    useBehind.getState().putBehind({ kind: "pinned", name, document: pinned });
    onClose();
  };
  const revision = (number: number, then: (revision: Revision) => void) =>
    fetched(server.revision(id, number), then);
  return (
    <Shade isOpen isDismissable onOpenChange={(open) => !open && onClose()}>
      <Sheet>
        <Dialog>
          <Heading slot="title">History and other ways</Heading>
          <Body>
            {trouble && <Trouble role="alert">{trouble}</Trouble>}
            <Pins
              document={document}
              others={others}
              pin={pin}
              fetch={(other) => fetched(server.design(other.id), (r) => pin(other.name, r.document))}
              onClose={onClose}
            />
            <Alternative id={id} name={document.name} onTrouble={setTrouble} />
            <Revisions
              {...{ lines, older, units }}
              failed={trouble !== null}
              onBehind={(n) => revision(n, (r) => pin(`revision ${n}`, r.document))}
              onBack={(n) =>
                revision(n, (r) => {
                  goBack(r.document);
                  onClose();
                })
              }
            />
            <Button slot="close">Close</Button>
          </Body>
        </Dialog>
      </Sheet>
    </Shade>
  );
}

/** Take an old revision's mounts and all that is its own; the truck under it stays the newest. */
function goBack(document: Document): void {
  useDesign.getState().edit(onNewestTruck(document));
}

function Pins(props: {
  document: Document;
  others: Build["designs"];
  pin: (name: string, document: Document) => void;
  fetch: (other: Build["designs"][number]) => void;
  onClose: () => void;
}) {
  const { document, others, pin, fetch, onClose } = props;
  const { behind, putBehind } = useBehind();
  return (
    <div>
      <h3>Behind the drawing</h3>
      <div className="pair">
        <Button onPress={() => pin("as it stood", document)}>Pin as it stands now</Button>
        {behind && (
          <Button
            onPress={() => {
              putBehind(null);
              onClose();
            }}
          >
            Take away {behind.name}
          </Button>
        )}
      </div>
      {others.length > 0 && (
        <ul aria-label="Other designs of this build">
          {others.map((other) => (
            <li key={other.id}>
              <span>{other.name}</span>
              <Button onPress={() => fetch(other)}>Draw behind</Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Revisions(props: {
  lines: Lines | null;
  older: (() => void) | null;
  units: Units;
  failed: boolean;
  onBehind: (number: number) => void;
  onBack: (number: number) => void;
}) {
  const { lines, older, units, failed, onBehind, onBack } = props;
  return (
    <div>
      <h3>Revisions</h3>
      {!lines && !failed && <p role="status">Fetching…</p>}
      {lines && (
        <ol aria-label="Revisions, the newest first">
          {lines.map((line, n) => (
            <li key={line.number}>
              <span>
                {line.number}: {line.damaged ? DAMAGED : revisionWords(line.changes, units, line.first)}
                <br />
                <span className="quiet">{when(line.stored_at)}</span>
              </span>
              <span className="pair">
                <Button
                  aria-label={`Behind: revision ${line.number}`}
                  isDisabled={line.damaged}
                  onPress={() => onBehind(line.number)}
                >
                  Behind
                </Button>
                <Button
                  aria-label={`Go back to revision ${line.number}`}
                  isDisabled={n === 0 || line.damaged}
                  onPress={() => onBack(line.number)}
                >
                  Go back
                </Button>
              </span>
            </li>
          ))}
        </ol>
      )}
      {older && (
        <Button className="older" onPress={older}>
          Show older ones
        </Button>
      )}
    </div>
  );
}

/** A copy to go another way from, with the reason for it. */
function Alternative({
  id,
  name,
  onTrouble,
}: {
  id: number;
  name: string;
  onTrouble: (why: string) => void;
}) {
  const go = useNavigate();
  const [title, setTitle] = useState(`${name}, another way`);
  const [why, setWhy] = useDraft("why an alternative", "");
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const { data, error } = await making.addAlternative(id, { name: title, why });
    if (!data) {
      onTrouble(reasonOf(error));
      return;
    }
    setWhy("");
    void go(`/designs/${data.design}`);
  };
  return (
    <Start onSubmit={(event) => void submit(event)} aria-label="An alternative">
      <label>
        An alternative, called
        <input value={title} onChange={(event) => setTitle(event.target.value)} />
      </label>
      <label>
        Why
        <input value={why} onChange={(event) => setWhy(event.target.value)} />
      </label>
      <Button type="submit">Start it</Button>
    </Start>
  );
}
