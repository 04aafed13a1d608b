/** Rows of the store that are damaged and left out of a list, and what mends them. */

import { Trouble } from "../../ui/controls";

export function Unreadable({ rows }: { rows: readonly string[] }) {
  if (rows.length === 0) return null;
  return (
    <Trouble role="alert">
      Damaged, and left out here: {rows.join(", ")}. End the server and start it again: it saves what can be
      read, and takes the rest from the newest backup.
    </Trouble>
  );
}
