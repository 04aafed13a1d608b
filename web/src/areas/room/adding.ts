/** Keep-outs put into the open design. */

import { type Draft, keepOutsOf, withKeepOut } from "../../document/room";
import type { Solid } from "../../document/solids";
import { useDesign } from "../../state/design";
import { edited, useRoom } from "../../state/room";

/** A keep-out of a solid, before it has a name. */
export const drawnAs = (solid: Solid): Draft => ({ name: "New", on: "frame", gap: 25, except: [], solid });

/** Add keep-outs and choose the last of them. */
export function addKeepOuts(drafts: readonly Draft[]): void {
  edited((now) => drafts.reduce(withKeepOut, now));
  const { document } = useDesign.getState();
  const last = document && keepOutsOf(document).at(-1);
  if (last) useRoom.getState().choose({ list: "keep_outs", id: last.id });
}
