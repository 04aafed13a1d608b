/** What goes to the shop: stock, what is cut from it, the list, and every file in one archive. */

import { useState } from "react";

import type { Document } from "../../document/document";
import { capital } from "../../document/parts";
import { NO_SERVER, reasonOf, server } from "../../api/client";
import { type Field, number, numeric } from "../../document/typed";
import { EditorBox } from "../../panels/EditorBox";
import { Sizes } from "../../panels/Sizes";
import { useDesign } from "../../state/design";
import { Button, Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { inUnits, length, lengthFigure, readLength, type Units } from "../../units/tape";
import { nameOf } from "./Bars";
import type { Shown } from "./CutSheet";
import { Faults } from "./Faults";
import { fine, mass } from "./said";
import { type Stock, stockFile, useStock } from "../../state/stock";
import { type CutOut, platesOf } from "./plate";
import { useCut } from "./plates";
import { useTaken } from "../../state/taken";
import { giveText, plainName } from "../../ui/giving";
import { Since } from "./Since";
import { useShopFiles } from "./Making";
import { Service } from "./Service";
import { addOrder, ordersOf, stateOf, today } from "../../state/orders";
import { useTruck } from "../../state/truck";

export function Shop({ id, document, units }: Shown) {
  const { key, asked } = useCut(document, { nested: true });
  const found = asked.data;
  return (
    <section aria-label="To the shop" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!found && asked.state === "asking" && <p role="status">Laying the parts out…</p>}
      <Files {...{ id, units, found }} />
      <Since {...{ id, document, units }} />
      <Faults of={found} within={/./} units={units} />
      {found && (
        <>
          <Nested {...{ document, units, found }} />
          <Items {...{ document, units, found }} />
          <Service {...{ id, document, units }} plates={platesOf(found).length} />
        </>
      )}
      <InStock {...{ document, units }} />
    </section>
  );
}

/** The archive is of what is stored: what is still on its way there is waited for. */
function Files({ id, units, found }: { id: number; units: Units; found: CutOut | null }) {
  const stored = useDesign((s) => s.sync.state === "stored");
  const number = useDesign((s) => s.stored?.number);
  const papers = units === "mm" ? (["a4", "letter"] as const) : (["letter", "a4"] as const);
  const taken = useDesign((s) => s.stored?.document);
  const take = useTaken((s) => s.take);
  const { begin, shown } = useShopFiles(id);
  const make = (paper: "a4" | "letter") => {
    if (!taken || number === undefined) return;
    begin(`${plainName(taken.name)}-r${number}.zip`, { units, paper });
    take(id, {
      revision: number,
      day: new Date().toISOString().slice(0, 10),
      document: { ...taken, room: null },
    });
  };
  const unknown = (found?.bars ?? []).filter((bar) => bar.cut_length === null).length;
  return (
    <>
      <p>
        Drawings of the plates, patterns, copes, lists and the shop drawing
        {number !== undefined && ` of revision ${number}`}, in one archive.{" "}
        {unknown > 0 &&
          `${unknown} bar${unknown > 1 ? "s have" : " has"} no cut length: say the ends in Bars.`}
      </p>
      <div style={{ display: "flex", gap: "0.375rem", flexWrap: "wrap" }}>
        {papers.map((paper) => (
          <Button key={paper} isDisabled={!stored || !found} onPress={() => make(paper)}>
            {`All files, patterns on ${paper === "a4" ? "A4" : "Letter"}`}
          </Button>
        ))}
      </div>
      {shown}
      {!stored && <p role="status">Not everything is stored yet; the files are of what is.</p>}
    </>
  );
}

function Nested({ document, units, found }: { document: Document; units: Units; found: CutOut }) {
  const nest = found.nest;
  const stock = useStock((s) => s.stock);
  if (!nest) return null;
  const file = stockFile(document, stock);
  return (
    <>
      <FigureSection
        title="Tubes to saw"
        head={["From", "Bars", "Left"]}
        rows={nest.bars.map((one) => {
          const tube = file.tubes[one.stock]!;
          return [
            `${length(tube.diameter, units)} × ${length(tube.wall, units)}`,
            one.pieces.map((piece) => nameOf(document, piece)).join(", "),
            length(one.rest, units),
          ];
        })}
      />
      {nest.plates.map((sheet, n) => (
        <SheetDrawn key={n} {...{ sheet, found, document }} n={n} stock={file} />
      ))}
      <FigureSection
        title="No place in stock"
        head={["", "Why"]}
        rows={nest.left_over.map(([part, why]) => [part, inUnits(why, units)])}
      />
    </>
  ); // prettier-ignore
}

type Sheet = NonNullable<CutOut["nest"]>["plates"][number];

interface OfSheet {
  document: Document;
  sheet: Sheet;
  n: number;
  found: CutOut;
  stock: ReturnType<typeof stockFile>;
}

function SheetDrawn({ document, sheet, n, found, stock }: OfSheet) {
  const of = stock.plates[sheet.stock];
  if (!of) return null; // what is asked is still of a design with more thicknesses
  const { size, thickness } = of;
  return (
    <>
      <SheetPicture {...{ sheet, found, size }} />
      <Saving {...{ document, stock, n }} name={`${plainName(document.name)}-sheet-${n + 1}-${thickness}mm`} />
    </>
  ); // prettier-ignore
}

/** The sheet as a drawing for whoever cuts it. */
function Saving({ document, stock, n, name }: Pick<OfSheet, "document" | "stock" | "n"> & { name: string }) {
  const [why, setWhy] = useState<string | null>(null);
  const save = async () => {
    setWhy(null);
    try {
      const { data, error } = await server.nestedSheet({ document, stock, sheet: n });
      if (data) giveText(data.text, "application/dxf", `${name}.dxf`);
      else setWhy(reasonOf(error));
    } catch {
      setWhy(NO_SERVER);
    }
  };
  return (
    <>
      <Button onPress={() => void save()}>Save sheet {n + 1} as DXF</Button>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </>
  );
}

function SheetPicture({ sheet, found, size }: { sheet: Sheet; found: CutOut; size: [number, number] }) {
  const plates = new Map(platesOf(found).map((one) => [one.part, one]));
  return (
    <svg
      role="img"
      aria-label={`Sheet with ${sheet.parts.map(({ part }) => part).join(", ")}`}
      viewBox={`-4 -4 ${size[0] + 8} ${size[1] + 8}`}
      width="100%"
    >
      <rect width={size[0]} height={size[1]} fill="var(--sheet)" stroke="var(--line)" strokeWidth={3} />
      {sheet.parts.map(({ part, at, turn }) => (
        <g key={part} transform={`translate(${at[0]} ${size[1] - at[1]}) scale(1 -1) rotate(${turn})`}>
          <polygon
            points={plates.get(part)!.outline.map(([u, v]) => `${u.toFixed(1)},${v.toFixed(1)}`).join(" ")}
            fill="var(--hair)"
            stroke="var(--ink)"
            strokeWidth={2}
          />
        </g>
      ))}
    </svg>
  ); // prettier-ignore
}

function Items({ document, units, found }: { document: Document; units: Units; found: CutOut }) {
  return (
    <FigureSection
      title="To saw, cut and buy"
      head={["", "What", "Count", "Length", "Mass", "Order"]}
      rows={found.items.map((one) => {
        const what = [one.what, one.sizes.map((mm) => fine(mm, units)).join(" × "), one.material ?? ""]
          .filter(Boolean)
          .join(" ");
        const name = one.kind === "bar" || one.kind === "dummy" ? capital(nameOf(document, one.name)) : one.name;
        return [
          name,
          what,
          String(one.count),
          one.length == null ? "" : length(one.length, units),
          one.mass == null ? "" : mass(one.mass, units),
          <Waited key="order" {...{ document }} item={`${one.kind} ${one.name}`} what={`${name}, ${what}`} count={one.count} />,
        ];
      })}
    />
  ); // prettier-ignore
}

/** Where a line of the list stands on the waiting list, or a button that puts it there. */
function Waited({
  document,
  item,
  what,
  count,
}: {
  document: Document;
  item: string;
  what: string;
  count: number;
}) {
  // prettier-ignore
  const truck = useTruck((s) => s.truck?.document);
  if (!truck) return null;
  const order = ordersOf(truck, document).find((one) => one.item === item);
  if (order) return <>{stateOf(order, today())}</>;
  return (
    <Button
      aria-label={`Wait for it: ${what}`}
      onPress={() => void addOrder(document, { what, count, item })}
    >
      Wait for it
    </Button>
  );
}

function InStock({ document, units }: { document: Document; units: Units }) {
  const { stock, set } = useStock();
  const [why, setWhy] = useState<string | null>(null);
  const size = (
    key: string,
    name: string,
    mm: number,
    put: (part: Stock, mm: number) => Stock,
  ): Field<Stock> =>
    numeric(key, name, lengthFigure(mm, units), (text) => above(readLength(text, units), 0), put);
  const count = (key: "tubes" | "sheets", name: string): Field<Stock> =>
    numeric(
      key,
      name,
      String(stock[key]),
      (text) => whole(number(text)),
      (part, value) => ({ ...part, [key]: value }),
    );
  const fields: Field<Stock>[] = [
    size("tube", "A tube’s length", stock.tube, (part, tube) => ({ ...part, tube })),
    count("tubes", "Tubes of each size"),
    size("kerf", "The saw’s kerf", stock.kerf, (part, kerf) => ({ ...part, kerf })),
    size("long", "A sheet’s length", stock.long, (part, long) => ({ ...part, long })),
    size("wide", "A sheet’s width", stock.wide, (part, wide) => ({ ...part, wide })),
    count("sheets", "Sheets of each thickness"),
    size("gap", "Between parts", stock.gap, (part, gap) => ({ ...part, gap })),
  ];
  if (document.links.length === 0) return null;
  return (
    <EditorBox>
      <h2>In stock</h2>
      <Sizes
        of="the shop"
        label="In stock"
        submit="Take this stock"
        fields={fields}
        part={stock}
        onWhy={setWhy}
        onTake={(next) => {
          set(next);
          return Promise.resolve(true);
        }}
      />
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  ); // prettier-ignore
}

const above = (value: number | string, least: number): number | string =>
  typeof value === "number" && value <= least ? "More than nothing." : value;

const MOST = 50;
const whole = (value: number | string): number | string =>
  typeof value === "number" && (!Number.isInteger(value) || value < 0 || value > MOST)
    ? `A whole number, ${MOST} or less.`
    : value;
