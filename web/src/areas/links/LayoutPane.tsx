/** The layout changed in place: links added, left out or made another kind, the locator exchanged; all else is kept. */

import { useState } from "react";

import { type Schemas, server } from "../../api/client";
import { type Document, words } from "../../document/document";
import { Button, Choice, Trouble } from "../../ui/controls";
import { increment, type Units } from "../../units/tape";
import { Found } from "./Found";
import { CornerPane } from "../../panels/CornerPane";
import { takeMade } from "../../state/taking";

type Change = Schemas["LayoutIn"]["change"];

const LOCATORS: [Schemas["LocatorIn"]["kind"], string][] = [
  ["none", "The links alone"],
  ["panhard", "Panhard bar"],
  ["watts_on_axle", "Watts link, crank on the axle"],
  ["watts_on_frame", "Watts link, crank on the frame"],
  ["slider", "Wishbone slider"],
];
const KINDS: [Schemas["KindIn"]["kind"], string][] = [
  ["lower", "Lower link"],
  ["upper", "Upper link"],
  ["radius_arm", "Radius arm"],
];
const SIDES = ["left", "right", "center"] as const;
const ADDED = KINDS.flatMap(([kind, name]) =>
  SIDES.filter((side) => kind !== "radius_arm" || side !== "center").map(
    (side) => [`${kind} ${side}`, `${name}, ${side}`] as const,
  ),
);

const locatorOf = ({ lateral }: Document): (typeof LOCATORS)[number][0] =>
  !lateral ? "none" : lateral.kind === "watts" ? `watts_on_${lateral.pivot.on}` : lateral.kind;

const isNew = (change: Change) => change.do === "add" || (change.do === "locator" && change.kind !== "none");

const changed = (change: Change, units: Units) =>
  takeMade((document) => server.layout({ document, change, increment: increment(units, "shop") }));

export function LayoutPane(props: { document: Document; units: Units; onClose: () => void }) {
  const { document, units, onClose } = props;
  const [busy, setBusy] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const [added, setAdded] = useState(false);
  const make = async (change: Change) => {
    setBusy(true);
    const trouble = await changed(change, units);
    setWhy(trouble);
    setAdded(trouble === null && isNew(change));
    setBusy(false);
  };
  return (
    <CornerPane label="Layout" title="Layout" busy={busy} onClose={onClose}>
      {why !== null && <Trouble role="alert">Not changed: {why}</Trouble>}
      {document.links.map((link) => (
        <OneLink key={link.id} {...{ link }} onChange={(change) => void make(change)} />
      ))}
      <div className="row">
        <span>Add</span>
        <Choice
          label="Add a link"
          value={null}
          options={ADDED}
          onChange={(what) => {
            const [kind, side] = what.split(" ") as [Schemas["AddIn"]["kind"], Schemas["AddIn"]["side"]];
            void make({ do: "add", kind, side });
          }}
        />
      </div>
      <div className="row">
        <span>Held sideways by</span>
        <Choice
          label="Locator"
          value={locatorOf(document)}
          options={LOCATORS}
          onChange={(kind) => void make({ do: "locator", kind })}
        />
      </div>
      <p className="quiet" role="status">
        {added
          ? "What is new stands where house proportions put it: a guess, to be moved to where it fits."
          : "Mounts, locks and bands that are not touched stay as they are. Undo takes a change back."}
      </p>
      <Found {...{ document, units }} />
    </CornerPane>
  );
}

function OneLink({
  link,
  onChange,
}: {
  link: Document["links"][number];
  onChange: (change: Change) => void;
}) {
  const name = words(link.id);
  return (
    <div className="row">
      <span>{name}</span>
      <Choice
        label={`Kind of ${name.toLowerCase()}`}
        value={link.kind}
        options={KINDS}
        onChange={(kind) => onChange({ do: "kind", link: link.id, kind })}
      />
      <Button
        aria-label={`Leave out ${name.toLowerCase()}`}
        onPress={() => onChange({ do: "leave_out", link: link.id })}
      >
        Leave out
      </Button>
    </div>
  );
}
