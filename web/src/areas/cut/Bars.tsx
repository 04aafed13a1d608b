/** Bars as they are made: their ends, what is sawn, how far each adjusts, and their bends. */

import { useState } from "react";

import { type Document, type JointKind, jointOf, type Spot, spotsOf, words } from "../../document/document";
import { bodiesOf, capital } from "../../document/parts";
import { type Field, numeric } from "../../document/typed";
import { EditorBox } from "../../panels/EditorBox";
import { OpeningRow } from "../../panels/OpeningRow";
import { Sizes } from "../../panels/Sizes";
import { type ShopTube, useCatalog, withSteel } from "../../state/catalog";
import { useTaking } from "../../state/room";
import { Choice, List, Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { length, lengthFigure, plain, readLength, type Units } from "../../units/tape";
import type { Shown } from "./CutSheet";
import { type Tube, tubeOf, withEnd, withTube } from "./making";
import { type BarMade, type CutOut } from "./plate";
import { useCut } from "./plates";
import { Faults } from "./Faults";
import { Steel } from "./Steel";
import { ShopCatalog } from "./ShopCatalog";
import { fine, mass } from "./said";

export function Bars({ document, units }: Shown) {
  const { key, asked } = useCut(document);
  const [open, setOpen] = useState<string | null>(null);
  const found = asked.data;
  return (
    <section aria-label="Bars" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!found && asked.state === "asking" && <p role="status">Measuring the bars…</p>}
      {found && found.bars.length === 0 && <p>There is no bar yet.</p>}
      <Faults of={found} within={/^(links|lateral|joints)/} units={units} />
      <List aria-label="Bars">
        {(found?.bars ?? []).map((bar) => (
          <OpeningRow
            key={bar.id}
            of="bar"
            id={bar.id}
            mark={bar.cut_length === null ? "○" : "●"}
            name={nameOf(document, bar.id)}
            worth={bar.cut_length === null ? "ends not said" : length(bar.cut_length, units)}
            open={open === bar.id}
            onPress={() => setOpen(open === bar.id ? null : bar.id)}
          >
            <Bar {...{ document, units, bar }} found={found!} />
          </OpeningRow>
        ))}
      </List>
      <ShopCatalog document={document} />
    </section>
  );
}

export const nameOf = (document: Document, id: string): string =>
  capital(bodiesOf(document).find((body) => body.id === id)?.words ?? words(id));

interface OfBar {
  document: Document;
  units: Units;
  bar: BarMade;
  found: CutOut;
}

function Bar({ document, units, bar, found }: OfBar) {
  const { why, setWhy, take } = useTaking();
  const ends = (["axle", "frame"] as const).flatMap((end) => {
    const mount = spotsOf(document).find(({ name }) => name === `${bar.id}.${end}`);
    return mount && jointOf(document, mount) !== undefined ? [{ end, mount }] : [];
  });
  return (
    <EditorBox>
      <Said {...{ units, bar }} />
      <div className="row">
        {ends.map(({ end, mount }) => (
          <End key={end} {...{ document, mount, found, take }} words={`End at the ${end}`} />
        ))}
      </div>
      <FromShop {...{ units, bar, take }} />
      <Steel
        {...{ document, units, found }}
        value={tubeOf(document, bar.id).material ?? null}
        onChange={(steeled, material) => void take((now) => withTube(steeled(now), bar.id, { material }))}
      />
      <Sizes
        of={bar.id}
        label="Tube"
        submit="Take this tube"
        fields={tubeFields(bar, document, units)}
        part={tubeOf(document, bar.id) as Tube}
        onWhy={setWhy}
        onTake={(tube) => take((now) => withTube(now, bar.id, tube))}
      />
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  );
}

/** A tube that the shop keeps, taken with its steel. */
function FromShop(props: Pick<OfBar, "units" | "bar"> & Pick<ReturnType<typeof useTaking>, "take">) {
  const { units, bar, take } = props;
  const shop = useCatalog((s) => s.shop);
  if (!shop || shop.tubes.length === 0) return null;
  return (
    <Choice
      label="A tube of the shop’s catalog"
      value={null}
      options={shop.tubes.map((tube, n) => [`${n}`, tubeSaid(tube, units)] as const)}
      onChange={(n) => {
        const { material, ...size } = shop.tubes[Number(n)]!;
        const known = material && shop.materials[material] ? { material } : {};
        void take((now) =>
          withTube(material ? withSteel(now, shop.materials, material) : now, bar.id, { ...size, ...known }),
        );
      }}
    />
  );
}

const tubeSaid = ({ diameter, wall, material }: ShopTube, units: Units): string =>
  `${length(diameter, units)} by ${length(wall, units)}${material ? `, ${words(material).toLowerCase()}` : ""}`;

function tubeFields(bar: BarMade, document: Document, units: Units): Field<Tube>[] {
  const read = (text: string) => readLength(text, units);
  const bent = bar.bends.length > 0 || (tubeOf(document, bar.id).bends ?? []).length > 0;
  const radius = tubeOf(document, bar.id).bend_radius;
  return [
    numeric("diameter", "Tube, outside", lengthFigure(bar.diameter, units), read, (tube, diameter) => ({ ...tube, diameter })),
    numeric("wall", "Wall", lengthFigure(bar.wall, units), read, (tube, wall) => ({ ...tube, wall })),
    ...(bent ? [numeric<Tube>("bend_radius", "Bends’ radius, middle", radius ? lengthFigure(radius, units) : "", read, (tube, bend_radius) => ({ ...tube, bend_radius }))] : []),
  ]; // prettier-ignore
}

function Said({ units, bar }: { units: Units; bar: BarMade }) {
  const rows: (string | null)[][] = [
    ["Center to center", length(bar.center_to_center, units)],
    ["Saw the tube to", bar.cut_length === null ? null : length(bar.cut_length, units)],
    ["From stock, copes on", bar.stock_length === null ? null : length(bar.stock_length, units)],
    ["Adjusts shorter, longer", bar.adjust && bar.adjust.map((mm) => length(mm, units)).join(", ")],
    ["A turn makes it", bar.per_turn ? `${fine(bar.per_turn, units)} longer` : null],
    ["Along the tube", bar.bends.length > 0 ? length(bar.developed, units) : null],
    ["Mass of the tube", bar.mass === null ? null : mass(bar.mass, units)],
  ];
  const hands = Object.entries(bar.hands).flatMap(([end, hand]) => (hand ? [`${hand} at the ${end}`] : []));
  return (
    <>
      <FigureSection
        title="As made"
        head={["", ""]}
        rows={rows.filter(([, said]) => said !== null) as string[][]}
      >
        {hands.length > 0 && <p>Threads: {hands.join(", ")}.</p>}
        {bar.guessed && <p className="quiet">Its tube is guessed: say its size.</p>}
        {halves(bar, units)}
      </FigureSection>
      <FigureSection
        title="Bends, from the axle end"
        head={["", "Straight before", "Bend", "Plane turned"]}
        rows={bar.bends.map((one, n) => [
          String(n + 1),
          length(one.straight, units),
          `${plain(one.angle, 1)}°`,
          `${plain(one.rotation, 1)}°`,
        ])}
      >
        {bar.bends.length > 0 && <p>Then {length(bar.last_straight, units)} straight.</p>}
      </FigureSection>
    </>
  );
}

/** What sawing to the tape’s step does, and that a lone thread turns its joint with it. */
function halves(bar: BarMade, units: Units) {
  const threads = Object.values(bar.hands).filter((hand) => hand !== null).length;
  if (bar.cut_length === null || threads === 0) return null;
  const sawn = readLength(lengthFigure(bar.cut_length, units), units);
  const off = typeof sawn === "number" ? Math.abs(sawn - bar.cut_length) : 0;
  const room = bar.adjust ? Math.min(...bar.adjust) : 0;
  return (
    <p className="quiet">
      Sawn to that figure it is {fine(off, units)} off, {off <= room ? "which the thread takes out" : "more than its thread takes out"}.
      {threads === 1 && " It has one thread: its joint comes off to turn it, half a turn at a time."}
    </p>
  ); // prettier-ignore
}

interface OfEnd {
  document: Document;
  mount: Spot;
  found: CutOut;
  words: string;
  take: (change: (document: Document) => Document) => Promise<boolean>;
}

/** What an end is: one of the design’s own entries, or a generic one that comes into its catalog. */
function End({ document, mount, found, words: label, take }: OfEnd) {
  const own = Object.entries(document.joints ?? {});
  const generic = Object.entries(found.ends as Record<string, JointKind>);
  const options = [
    ...own.map(([id, kind]) => [id, kind.name || words(id)] as const),
    ...generic.filter(([id]) => !document.joints?.[id]).map(([id, kind]) => [id, kind.name] as const),
  ];
  return (
    <Choice
      label={label}
      placeholder={`${label} not said`}
      value={options.some(([id]) => id === jointOf(document, mount)) ? jointOf(document, mount)! : null}
      options={options}
      onChange={(entry) => void take((now) => withEnd(now, mount, entry, found.ends[entry] as JointKind | undefined))}
    />
  ); // prettier-ignore
}
