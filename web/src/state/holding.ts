/** Something on the floor to take hold of: a drag previews, letting go edits, Escape puts back, keys edit at once. */

import { type KeyboardEvent, type PointerEvent, useRef } from "react";

import type { Document } from "../document/document";
import { useCancelling } from "../floor/Handle";
import { useDesign } from "./design";

/**
 * What the element to take hold of is given.
 *
 * `taken`: what is kept of the moment it is taken hold of. `brought`: the document where the hand has brought it since;
 * null where that can't be said. `pressed`: the document after a key; null where the key does nothing here.
 */
export function useHolding<Taken>(given: {
  taken: (event: PointerEvent<SVGGElement>) => Taken;
  brought: (document: Document, taken: Taken, event: PointerEvent) => Document | null;
  pressed: (document: Document, event: KeyboardEvent) => Document | null;
}) {
  const held = useRef<{ document: Document; taken: Taken } | null>(null);
  const now = (event: PointerEvent): Document | null =>
    held.current && given.brought(held.current.document, held.current.taken, event);
  const end = (next: Document | null) => {
    const document = held.current?.document;
    held.current = null;
    if (document) useDesign.getState().edit(next ?? document, document);
  };
  const listen = useCancelling(() => end(null));
  return {
    onPointerDown: (event: PointerEvent<SVGGElement>) => {
      const { document } = useDesign.getState();
      if (event.button !== 0 || !document) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { document, taken: given.taken(event) };
      listen(true);
    },
    onPointerMove: (event: PointerEvent) => {
      const next = now(event);
      if (next) useDesign.getState().preview(next);
    },
    onPointerUp: (event: PointerEvent) => {
      listen(false);
      end(now(event));
    },
    onPointerCancel: () => {
      listen(false);
      end(null);
    },
    onKeyDown: (event: KeyboardEvent) => {
      const { document, edit } = useDesign.getState();
      const next = document && given.pressed(document, event);
      if (!next) return;
      event.preventDefault();
      edit(next);
    },
  };
}
