/** What was deleted, to be brought back: it lies here until it is. */

import { useEffect, useState } from "react";
import { Dialog, Heading } from "react-aria-components";
import styled from "styled-components";

import { making } from "../../state/making";
import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import { Button, Shade, Sheet, Trouble } from "../../ui/controls";
import { Unreadable } from "./Unreadable";

const List = styled.ul`
  list-style: none;
  margin: 0 0 0.875rem;
  padding: 0;
  max-height: 60vh;
  overflow-y: auto;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0.625rem;
    align-items: center;
    padding: 4px 2px;
    border-bottom: 1px solid var(--hair);
    overflow-wrap: anywhere;
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
`;

const day = (at: string) => new Date(at).toLocaleDateString("en-US", { dateStyle: "medium" });

const rowsOf = (bin: Schemas["BinOut"]) => [
  ...bin.builds.map((one) => ({
    ...one,
    what: "Build",
    restore: () => making.restoreBuild(one.id, one.name),
  })),
  ...bin.designs.map((one) => ({
    ...one,
    what: `Design of ${one.build}`,
    restore: () => making.restoreDesign(one.id, one.name),
  })),
];

export function BinSheet({ onBack, onClose }: { onBack: () => Promise<void>; onClose: () => void }) {
  const [bin, setBin] = useState<Schemas["BinOut"] | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    server
      .bin()
      .then(({ data, error }) => (data ? setBin(data) : setTrouble(reasonOf(error))))
      .catch(() => setTrouble(NO_SERVER));
  }, []);
  const back = async (restored: Promise<{ data?: unknown; error?: unknown }>) => {
    const { data, error } = await restored;
    if (!data) {
      setTrouble(reasonOf(error));
      return;
    }
    await onBack();
    onClose();
  };
  const rows = bin && rowsOf(bin);
  return (
    <Shade isOpen isDismissable onOpenChange={(open) => !open && onClose()}>
      <Sheet>
        <Dialog>
          <Heading slot="title">Bin</Heading>
          {trouble && <Trouble role="alert">{trouble}</Trouble>}
          <Unreadable rows={bin?.unreadable ?? []} />
          {!rows && !trouble && <p role="status">Looking…</p>}
          {rows?.length === 0 && (
            <p>{bin?.unreadable.length ? "Nothing else lies here." : "Nothing was deleted."}</p>
          )}
          <List aria-label="Deleted, the last first">
            {rows?.map((row) => (
              <li key={`${row.what} ${row.id}`}>
                <span>
                  {row.name}
                  <br />
                  <span className="quiet">
                    {row.what}, deleted {day(row.deleted_at)}
                  </span>
                </span>
                <Button aria-label={`Bring it back: ${row.name}`} onPress={() => void back(row.restore())}>
                  Bring it back
                </Button>
              </li>
            ))}
          </List>
          <Button slot="close">Close</Button>
        </Dialog>
      </Sheet>
    </Shade>
  );
}
