/** Designs of one axle side by side: each judged figure a row, what each has wrong alone, what differs. */

import { Fragment, useEffect, useState } from "react";
import { createPortal } from "react-dom";
import styled from "styled-components";

import { type Build, type Revision, type Schemas, server } from "../../api/client";
import { QUANTITIES, show } from "../../figures/readings";
import { Mark, SEVERITIES } from "../../figures/Severity";
import { useAsked } from "../../solve/asking";
import { dropPreview, preview, takePreview, useBehind } from "../../state/behind";
import { useDesign } from "../../state/design";
import { useTruck } from "../../state/truck";
import { Button, Toggle, Trouble } from "../../ui/controls";
import { figureTables } from "../../ui/tables";
import { length, type Units } from "../../units/tape";
import { csvOf } from "./csv";
import type { Shown } from "./Weigh";

type Answer = Schemas["Beside"];
type Column = Schemas["BesideColumn"];

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
`;

/** The other designs of this axle in this build, as they are stored now. */
function useSiblings(id: number): { own: Schemas["DesignLine"][]; why: string | null } {
  const build = useDesign((s) => s.stored?.build ?? null);
  const asked = useAsked<Build>(build === null ? null : `${build}`, () => server.build(build!), 0);
  const end = useDesign((s) => s.document?.axle.end);
  const own = (asked.data?.designs ?? []).filter((one) => one.end === end && one.id !== id && !one.damaged);
  return { own, why: asked.state === "failed" ? asked.why : null };
}

export function Beside({ id, document, units, slot }: Shown) {
  const siblings = useSiblings(id);
  const [picked, setPicked] = useState<readonly number[]>([]);
  const [others, setOthers] = useState<readonly Revision[]>([]);
  const [loaded, setLoaded] = useState(false);
  const cases = useTruck((s) => s.truck?.document.cases) ?? [];
  useEffect(() => dropPreview, []);
  const toggle = async (sibling: number) => {
    if (picked.includes(sibling)) {
      setPicked(picked.filter((one) => one !== sibling));
      return;
    }
    const { data } = await server.design(sibling).catch(() => ({ data: undefined }));
    if (!data) return;
    setOthers((known) => [...known.filter((one) => one.design !== sibling), data]);
    setPicked((now) => [...now, sibling]);
  };
  const shown = picked.flatMap((one) => others.filter(({ design }) => design === one));
  const designs = [document, ...shown.map((one) => one.document)];
  const loads = loaded ? cases.map(({ name, mass, front_share }) => ({ name, mass, front_share })) : [];
  const body = { designs, loads };
  const key = JSON.stringify(body);
  const asked = useAsked<Answer>(key, (signal) => server.beside(body, signal), 300);
  const names = ["This design", ...shown.map((one) => one.document.name)];
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
              key={one.id}
              isSelected={picked.includes(one.id)}
              isDisabled={!picked.includes(one.id) && picked.length >= MOST - 1}
              onChange={() => void toggle(one.id)}
            >
              {one.name}
            </Toggle>
          ))}
        </div>
      )}
      {cases.length > 0 && (
        <Toggle isSelected={loaded} onChange={setLoaded}>
          Under each load too
        </Toggle>
      )}
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!asked.data && asked.state === "asking" && <p role="status">Judging them…</p>}
      {asked.data && asked.key === key && (
        <Compared answer={asked.data} {...{ names, shown, units, slot, name: document.name }} />
      )}
    </section>
  );
}

interface Given {
  answer: Answer;
  names: string[];
  shown: readonly Revision[];
  units: Units;
  name: string;
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

function Compared({ answer, names, shown, units, name, slot }: Given) {
  const areas = Object.keys(AREAS).filter((area) => answer.rows.some((row) => row.area === area));
  const heads = answer.columns.map((column) => headed(column, names));
  const save = () => csvOf(`${name}-side-by-side.csv`, [
    ["figure", ...heads],
    ...answer.rows.map((row) => [row.title, ...row.cells.map((cell) => (cell?.value ?? "").toString())]),
  ]); // prettier-ignore
  return (
    <>
      {answer.columns.slice(1).map((column, n) => {
        const other = column.load === "" ? shown[column.of - 1] : undefined;
        return other && <Differs key={n} {...{ column, other, units }} />;
      })}
      {slot &&
        createPortal(
          <Table>
            <Rows {...{ answer, heads, areas, units }} />
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

function Rows({
  answer,
  heads,
  areas,
  units,
}: {
  answer: Answer;
  heads: string[];
  areas: string[];
  units: Units;
}) {
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
                <tr key={row.id}>
                  <th scope="row">{row.title}</th>
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
              ))}
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

const WAYS: Record<string, readonly [string, string]> = {
  x: ["forward", "back"],
  y: ["outward", "inward"],
  z: ["up", "down"],
};

/** What another design has elsewhere, what is wrong in it alone, and looking at it behind this one. */
function Differs({ column, other, units }: { column: Column; other: Revision; units: Units }) {
  const name = other.document.name;
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
