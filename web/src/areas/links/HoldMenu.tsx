/** Holding and freeing in one act: what may follow when a result is pulled, or when several are moved a little. */

import { memo } from "react";

import { type Document, type Spot, valueAt, withHeld } from "../../document/document";
import { useDesign } from "../../state/design";
import { Choice } from "../../ui/controls";

type Held = (document: Document) => (mount: Spot) => boolean;

const kindOf = (document: Document, mount: Spot): unknown =>
  (valueAt(document, mount.path.slice(0, 2)) as { kind?: string } | null | undefined)?.kind;
const ofKind =
  (kind: string): Held =>
  (document) =>
  (mount) =>
    kindOf(document, mount) !== kind;

export const HOLDS = {
  nothing: ["Nothing held", () => () => false],
  frame: ["Only axle ends free", () => (mount) => mount.on !== "axle"],
  axle: ["Only frame ends free", () => (mount) => mount.on !== "frame"],
  lowers: ["Only the uppers free", ofKind("upper")],
  uppers: ["Only the lowers free", ofKind("lower")],
  links: ["Only the locator free", () => (mount) => mount.path[0] !== "lateral"],
  all: ["Everything held", () => () => true],
} as const satisfies Record<string, readonly [string, Held]>;

export const HoldMenu = memo(function HoldMenu() {
  const hold = (which: keyof typeof HOLDS) => {
    const { document, edit } = useDesign.getState();
    if (document) edit(withHeld(document, HOLDS[which][1](document)));
  };
  return (
    <Choice
      label="Hold"
      placeholder="Hold or free several"
      value={null}
      options={(Object.keys(HOLDS) as (keyof typeof HOLDS)[]).map((key) => [key, HOLDS[key][0]] as const)}
      onChange={hold}
    />
  );
});
