/** The bolt at each joint: its size and grade, what it is tightened with and when, and what it carries. */

import { useState } from "react";

import { type Schemas, server } from "../../api/client";
import {
  type Document,
  type Fastener,
  mountLabel,
  type Spot,
  spotsOf,
  withFastener,
} from "../../document/document";
import { capital } from "../../document/parts";
import { numeric } from "../../document/typed";
import { Mark } from "../../figures/Severity";
import { EditorBox } from "../../panels/EditorBox";
import { OpeningRow } from "../../panels/OpeningRow";
import { Sizes } from "../../panels/Sizes";
import { useAsked } from "../../solve/asking";
import { useTaking } from "../../state/room";
import { useSelection } from "../../state/selection";
import { Choice, List, Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { showTorque } from "../../units/forces";
import { length, lengthFigure, plain, readLength, type Units } from "../../units/tape";
import type { Shown } from "./CutSheet";

type BoltsOut = Schemas["BoltsOut"];
type JointBolt = BoltsOut["bolts"][number];

const WHEN = {
  bush: "With the truck at ride height: a bush that is clamped elsewhere is wound up at ride.",
  free: "At any height: the joint turns freely on its bolt.",
  unsaid: "With the truck at ride height if it is a bush: nobody has said what this joint is.",
};
const whenOf = ({ bush }: JointBolt): string => (bush == null ? WHEN.unsaid : bush ? WHEN.bush : WHEN.free);

export function Bolts({ document, units }: Shown) {
  const key = JSON.stringify(document);
  const asked = useAsked<BoltsOut>(key, (signal) => server.bolts({ document }, signal), 120);
  const [open, setOpen] = useState<string | null>(null);
  const choose = useSelection((s) => s.choose);
  const found = asked.data;
  const spots = new Map(spotsOf(document).map((spot) => [spot.name, spot]));
  const rows = (found?.bolts ?? []).flatMap((bolt) => {
    const mount = spots.get(bolt.mount);
    return mount ? [{ bolt, mount }] : [];
  });
  const press = (mount: Spot) => {
    setOpen(open === mount.name ? null : mount.name);
    choose(mount.key);
  };
  return (
    <section aria-label="Bolts" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!found && asked.state === "asking" && <p role="status">Looking the bolts up…</p>}
      {found && rows.length === 0 && <p>No joint is held by a bolt yet.</p>}
      <List aria-label="Bolts">
        {rows.map(({ bolt, mount }) => (
          <OpeningRow
            key={bolt.mount}
            of="bolt"
            id={bolt.mount}
            mark={<Mark severity={bolt.worst?.severity ?? "consider"} />}
            name={capital(mountLabel(mount))}
            worth={worthOf(bolt, units)}
            open={open === bolt.mount}
            onPress={() => press(mount)}
          >
            <Bolt {...{ units, bolt, mount, found: found! }} />
          </OpeningRow>
        ))}
      </List>
    </section>
  );
}

const worthOf = (bolt: JointBolt, units: Units): string => {
  if (bolt.diameter == null) return "not said";
  if (bolt.yield_stress == null) return `${length(bolt.diameter, units)}, grade not said`;
  return bolt.torque == null ? "thread not known" : showTorque(bolt.torque, units);
};

interface OfBolt {
  units: Units;
  bolt: JointBolt;
  mount: Spot;
  found: BoltsOut;
}

function Bolt({ units, bolt, mount, found }: OfBolt) {
  const { why, setWhy, take } = useTaking();
  // a size without a grade is no bolt yet: it waits here for what is stamped on the head
  const [size, setSize] = useState<number | null>(null);
  const { yield_stress: strength } = bolt;
  const diameter = size ?? bolt.diameter ?? null;
  const put = async (fastener: Pick<Fastener, "diameter" | "yield">) => {
    const had = await take((now) => withFastener(now, mount, { ...saidAt(now, mount), ...fastener }));
    if (had) setSize(null);
    return had;
  };
  const sized = (mm: number) => {
    if (strength != null) return put({ diameter: mm, yield: strength });
    setSize(mm);
    return Promise.resolve(true);
  };
  const grades = found.grades.filter(({ up_to }) => diameter === null || diameter <= up_to);
  return (
    <EditorBox>
      <Told {...{ units, bolt }} />
      <Sizes<{ diameter: number }>
        of={mount.name}
        label="Bolt"
        submit="Take this size"
        fields={[
          numeric("diameter", "Bolt, diameter", diameter === null ? "" : lengthFigure(diameter, units), (text) => readLength(text, units), (one, mm) => ({ ...one, diameter: mm })),
        ]}
        part={{ diameter: diameter ?? 0 }}
        onWhy={setWhy}
        onTake={(one) => sized(one.diameter)}
      />
      {diameter === null ? (
        <p>Say its diameter first, then what is stamped on its head.</p>
      ) : (
        <Choice
          label="Grade, as stamped on its head"
          placeholder={strength == null ? "Grade not said" : `${plain(strength, 0)} MPa, no common grade`}
          value={bolt.grade ?? null}
          options={grades.map(({ id, words }) => [id, words] as const)}
          onChange={(id) => void put({ diameter, yield: found.grades.find((one) => one.id === id)!.yield_stress })}
        />
      )}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  );
} // prettier-ignore

function Told({ units, bolt }: { units: Units; bolt: JointBolt }) {
  const { torque, worst } = bolt;
  const rows: string[][] = [
    ...(torque == null ? [] : [["Tighten with", showTorque(torque, units)]]),
    ...(worst ? [["Factor in shear", `${plain(worst.factor!, 1)} ${worst.case_words}; ${plain(worst.wanted, 2)} wanted`]] : []),
  ];
  return (
    <>
      {rows.length > 0 && <FigureSection title="As said" head={["", ""]} rows={rows} />}
      <p className="quiet">{whenOf(bolt)}</p>
      {torque == null && bolt.yield_stress != null && (
        <p className="quiet">No common coarse thread has that diameter: its torque is its maker’s to say.</p>
      )}
    </>
  );
} // prettier-ignore

/** The bolt that a mount has in the file; sheared in two planes where nobody said otherwise. */
function saidAt(document: Document, mount: Spot): { planes: number } {
  const at = mount.path.slice(0, -1).reduce<unknown>((value, step) => (value as Record<string | number, unknown> | null)?.[step], document);
  return { planes: 2, ...((at as { fastener?: Fastener | null } | undefined)?.fastener ?? {}) };
} // prettier-ignore
