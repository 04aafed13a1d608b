/** Designs of one axle side by side: each judged figure a row, what each has wrong alone, what differs. */

import { Fragment, useEffect, useState } from "react";
import { createPortal } from "react-dom";
import styled from "styled-components";

import { type Answer as Answered, type Build, NO_SERVER, reasonOf, type Revision, type Schemas, server } from "../../api/client"; // prettier-ignore
import type { Document } from "../../document/document";
import { QUANTITIES, show } from "../../figures/readings";
import { Mark, SEVERITIES } from "../../figures/Severity";
import { useAsked } from "../../solve/asking";
import { dropPreview, preview, takePreview, useBehind } from "../../state/behind";
import { useDesign } from "../../state/design";
import { type Solved, useSolver } from "../../state/solver";
import { onNewestTruck, useTruck } from "../../state/truck";
import { Button, Choice, Toggle, Trouble } from "../../ui/controls";
import { figureTables } from "../../ui/tables";
import { length, type Units } from "../../units/tape";
import { csvOf } from "./csv";
import { Overlaid } from "./Overlaid";
import type { Shown } from "./Weigh";

type Answer = Schemas["Beside"];
type Column = Schemas["BesideColumn"];
type Row = Schemas["BesideRow"];

const MOST = 6;

const Table = styled.div`
  overflow-x: auto;
  ${figureTables}
  thead th {
    vertical-align: bottom;
    min-width: 4.25rem;
  }
  tr.area th {
    padding-top: 0.5rem;
    font-weight: 600;
  }
  td[data-best="true"] {
    font-weight: 600;
    box-shadow: inset 0 -2px 0 var(--accent);
  }
  ul {
    margin: 0;
    padding-left: 1rem;
    font-size: 0.875rem;
  }
  .curves {
    min-height: 1.5rem;
    padding: 0;
    border: 0;
    background: none;
    color: inherit;
    font: inherit;
    text-align: left;
    text-decoration: underline dotted;
    cursor: pointer;
  }
`;

/** Something that may stand beside the open design: another design of its axle, or an earlier revision. */
interface Other {
  key: string;
  name: string;
  fetch: () => Promise<Answered<Revision>>;
}

/** The other designs of this axle in this build, as they are stored now. */
function useSiblings(id: number): { own: Other[]; why: string | null } {
  const build = useDesign((s) => s.stored?.build ?? null);
  const asked = useAsked<Build>(build === null ? null : `${build}`, () => server.build(build!), 0);
  const end = useDesign((s) => s.document?.axle.end);
  const own = (asked.data?.designs ?? [])
    .filter((one) => one.end === end && one.id !== id && !one.damaged)
    .map((one) => ({ key: `design ${one.id}`, name: one.name, fetch: () => server.design(one.id) }));
  return { own, why: asked.state === "failed" ? asked.why : null };
}

/** This design's earlier revisions, the newest of them first, each on the truck as it is now. */
function useEarlier(id: number): Other[] {
  const number = useDesign((s) => s.stored?.number ?? null);
  const asked = useAsked(number === null ? null : `${id} ${number}`, () => server.revisions(id, null), 0);
  return (asked.data?.lines ?? [])
    .filter((line) => line.number !== number && !line.damaged)
    .map((line) => ({
      key: `revision ${line.number}`,
      name: `Revision ${line.number}`,
      fetch: async () => {
        const found = await server.revision(id, line.number);
        return found.data
          ? { ...found, data: { ...found.data, document: onNewestTruck(found.data.document) } }
          : found;
      },
    }));
}

/** Those that are picked, in the order in which they were, as they came from the server. */
function usePicked() {
  const [picked, setPicked] = useState<readonly (Other & { document: Document })[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const toggle = async (other: Other) => {
    setTrouble(null);
    if (picked.some((one) => one.key === other.key)) {
      setPicked(picked.filter((one) => one.key !== other.key));
      return;
    }
    const { data, error } = await other.fetch().catch(() => ({ data: undefined, error: null }));
    if (data) setPicked((now) => [...now, { ...other, document: data.document }]);
    else setTrouble(error === null ? NO_SERVER : reasonOf(error));
  };
  return { picked, toggle, trouble };
}

export function Beside({ id, document, units, slot }: Shown) {
  const siblings = useSiblings(id);
  const earlier = useEarlier(id);
  const { picked, toggle, trouble } = usePicked();
  const [loaded, setLoaded] = useState(false);
  const cases = useTruck((s) => s.truck?.document.cases) ?? [];
  useEffect(() => dropPreview, []);
  const designs = [document, ...picked.map((one) => one.document)];
  const loads = loaded ? cases.map(({ name, mass, front_share }) => ({ name, mass, front_share })) : [];
  const body = { designs, loads };
  const key = JSON.stringify(body);
  const asked = useAsked<Answer>(key, (signal) => server.beside(body, signal), 300);
  const names = ["This design", ...picked.map((one) => one.name)];
  const chosen = (other: Other) => picked.some((one) => one.key === other.key);
  const full = picked.length >= MOST - 1;
  return (
    <section aria-label="Side by side" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {siblings.why && <Trouble role="alert">{siblings.why}</Trouble>}
      {siblings.own.length === 0 ? (
        <p className="quiet">
          There is no other design of this axle in its build. Under History an alternative is begun from any
          revision; it then stands here beside this one. A front and a rear axle are not compared: their bands
          are not the same.
        </p>
      ) : (
        <div className="line" role="group" aria-label="Beside this one">
          {siblings.own.map((one) => (
            <Toggle
              key={one.key}
              isSelected={chosen(one)}
              isDisabled={!chosen(one) && full}
              onChange={() => void toggle(one)}
            >
              {one.name}
            </Toggle>
          ))}
        </div>
      )}
      <Earlier {...{ earlier, picked, full }} onToggle={(one) => void toggle(one)} />
      {trouble && <Trouble role="alert">{trouble}</Trouble>}
      {cases.length > 0 && (
        <Toggle isSelected={loaded} onChange={setLoaded}>
          Under each load too
        </Toggle>
      )}
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!asked.data && asked.state === "asking" && <p role="status">Judging them…</p>}
      {asked.data && asked.key === key && (
        <Compared answer={asked.data} {...{ names, picked, designs, units, slot }} />
      )}
    </section>
  );
}

/** Earlier revisions of this design: one more beside it, or one taken away. */
function Earlier(props: {
  earlier: readonly Other[];
  picked: readonly Other[];
  full: boolean;
  onToggle: (other: Other) => void;
}) {
  const { earlier, picked, full, onToggle } = props;
  const beside = picked.filter((one) => one.key.startsWith("revision"));
  const left = earlier.filter((one) => !beside.some(({ key }) => key === one.key));
  if (earlier.length === 0) return null;
  return (
    <div className="line" role="group" aria-label="Earlier revisions beside this one">
      {beside.map((one) => (
        <Toggle key={one.key} isSelected onChange={() => onToggle(one)}>
          {one.name}
        </Toggle>
      ))}
      {left.length > 0 && !full && (
        <Choice
          label="As it was earlier"
          placeholder="Which revision"
          value={null}
          options={left.map((one) => [one.key, one.name] as const)}
          onChange={(key) => onToggle(left.find((one) => one.key === key)!)}
        />
      )}
    </div>
  );
}

interface Given {
  answer: Answer;
  names: string[];
  picked: readonly { name: string; document: Document }[];
  designs: readonly Document[];
  units: Units;
  slot: Shown["slot"];
}

const AREAS: Record<string, string> = {
  links: "Links",
  joints: "Joints",
  shaft: "Driveline",
  steering: "Steering",
  corners: "Corners",
  room: "Room",
};

const headed = (column: Column, names: string[]): string =>
  column.load === "" ? (names[column.of] ?? "") : `${names[column.of] ?? ""}, ${column.load}`;

const counted = ({ stops, fixes, considers }: Column): string =>
  `${stops} stop, ${fixes} fix, ${considers} consider`;

const said = (severity: keyof typeof SEVERITIES, best: boolean): string =>
  best ? `${SEVERITIES[severity]}, the best of them` : SEVERITIES[severity];

/** The curve that a row's figure is judged on, of those that the whole cycle has. */
function curveOf(row: Row, solved: Solved | null): Schemas["Curve"] | undefined {
  const curves = solved?.answer.curves.flatMap((asked) => asked.curves) ?? [];
  return curves.find((one) => one.judged !== null && row.id === one.judged);
}

function Compared({ answer, names, picked, designs, units, slot }: Given) {
  const solved = useSolver((s) => s.solved);
  const [open, setOpen] = useState<string | null>(null);
  const row = answer.rows.find((one) => one.id === open);
  const curve = row && curveOf(row, solved);
  const own = row?.cells[0];
  const areas = Object.keys(AREAS).filter((area) => answer.rows.some((row) => row.area === area));
  const heads = answer.columns.map((column) => headed(column, names));
  const save = () => csvOf(`${designs[0]!.name}-side-by-side.csv`, [
    ["figure", ...heads],
    ...answer.rows.map((row) => [row.title, ...row.cells.map((cell) => (cell?.value ?? "").toString())]),
  ]); // prettier-ignore
  return (
    <>
      {answer.columns.slice(1).map((column, n) => {
        const other = column.load === "" ? picked[column.of - 1] : undefined;
        return other && <Differs key={n} {...{ column, other, units }} />;
      })}
      {slot &&
        createPortal(
          <Table>
            {row && curve && (
              <Overlaid
                {...{ designs, names, units }}
                title={row.title}
                column={curve.column}
                quantity={curve.quantity}
                band={[own?.low ?? null, own?.high ?? null]}
                onClose={() => setOpen(null)}
              />
            )}
            <Rows
              {...{ answer, heads, areas, units, open }}
              curved={(one) => curveOf(one, solved) !== undefined}
              onOpen={setOpen}
            />
          </Table>,
          slot,
        )}
      <div className="line">
        <Button onPress={save}>Save as CSV</Button>
        <Button onPress={() => window.print()}>Print</Button>
      </div>
    </>
  );
}

interface OfRows {
  answer: Answer;
  heads: string[];
  areas: string[];
  units: Units;
  /** The row whose curves are shown, and which rows have some. */
  open: string | null;
  curved: (row: Row) => boolean;
  onOpen: (id: string | null) => void;
}

function Rows({ answer, heads, areas, ...rest }: OfRows) {
  return (
    <table>
      <thead>
        <tr>
          <th scope="col">Judged</th>
          {answer.columns.map((column, n) => (
            <th key={n} scope="col" title={counted(column)}>
              {heads[n]}
              <br />
              {counted(column)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {areas.map((area) => (
          <Fragment key={area}>
            <tr className="area">
              <th scope="colgroup" colSpan={answer.columns.length + 1}>
                {AREAS[area] ?? area}
              </th>
            </tr>
            {answer.rows
              .filter((row) => row.area === area)
              .map((row) => (
                <OneRow key={row.id} {...{ row }} {...rest} />
              ))}
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

function OneRow({
  row,
  units,
  open,
  curved,
  onOpen,
}: { row: Row } & Omit<OfRows, "answer" | "heads" | "areas">) {
  const shown = open === row.id;
  return (
    <tr>
      <th scope="row">
        {curved(row) ? (
          <button
            type="button"
            className="curves"
            aria-expanded={shown}
            onClick={() => onOpen(shown ? null : row.id)}
          >
            {row.title}
          </button>
        ) : (
          row.title
        )}
      </th>
      {row.cells.map((cell, n) => (
        <td key={n} data-best={row.best.includes(n)}>
          {cell === null ? (
            "none"
          ) : (
            <>
              <span title={said(cell.severity, row.best.includes(n))}>
                <Mark severity={cell.severity} />
              </span>{" "}
              {show(cell.value, QUANTITIES[row.unit], units)}
            </>
          )}
        </td>
      ))}
    </tr>
  );
}

const WAYS: Record<string, readonly [string, string]> = {
  x: ["forward", "back"],
  y: ["outward", "inward"],
  z: ["up", "down"],
};

/** What another design has elsewhere, what is wrong in it alone, and looking at it behind this one. */
function Differs(props: { column: Column; other: { name: string; document: Document }; units: Units }) {
  const { column, other, units } = props;
  const { name } = other;
  const looked = useBehind((s) => s.behind?.kind === "preview" && s.behind.name === name);
  const said = column.differs.map(({ what, axis, by }) =>
    axis && by ? `${what} ${length(Math.abs(by), units)} ${(WAYS[axis] ?? ["", ""])[by > 0 ? 0 : 1]}` : what,
  );
  return (
    <div>
      <div className="place">
        <strong>{name}</strong>
        {looked ? (
          <span className="line">
            <Button className="main" onPress={takePreview}>
              Take it
            </Button>
            <Button onPress={dropPreview}>Drop it</Button>
          </span>
        ) : (
          <Button onPress={() => preview(name, other.document)}>Look at it</Button>
        )}
      </div>
      <p className="quiet">Differs: {said.join("; ") || "in nothing that is drawn"}.</p>
      {column.alone.length > 0 && (
        <p className="quiet">
          Has alone: {column.alone.map((one) => `${one.title.toLowerCase()} (${one.severity})`).join("; ")}.
        </p>
      )}
    </div>
  );
}
