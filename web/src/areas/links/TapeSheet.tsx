/** The tape sheet: all mounts in one table, typed down a column as a sheet is read, pasted from a spreadsheet, copied back. */

import { type ClipboardEvent, type KeyboardEvent, useRef, useState } from "react";
import { Dialog, FileTrigger, Heading } from "react-aria-components";
import styled from "styled-components";

import type { Document } from "../../document/document";
import { useDesign } from "../../state/design";
import { useTexts } from "../../state/drafts";
import { useSaid } from "../../state/said";
import { Button, Shade, Sheet } from "../../ui/controls";
import { giveText, plainName } from "../../ui/giving";
import { length, plain, unitSign, type Units } from "../../units/tape";
import {
  boltAngles, type Cell, cellsOf, COLUMNS, copied, csvOf, type Drafts, type FromCsv, fromCsv, pasted, readCell, rowsOf, stands, taken,
} from "./tape"; // prettier-ignore

const Wide = styled(Sheet)`
  width: min(73.75rem, 98vw);
  table {
    border-collapse: collapse;
    width: 100%;
  }
  tbody th {
    min-width: 9.375rem;
  }
  th {
    font-weight: 400;
    text-align: left;
    font-size: 0.875rem;
    padding: 2px 0.375rem 2px 0;
  }
  thead th {
    color: var(--quiet);
    text-align: right;
  }
  thead tr:first-child th {
    font-weight: 600;
    color: var(--ink);
    text-align: center;
  }
  td {
    padding: 2px 3px;
  }
  td.right {
    padding-left: 1rem;
  }
  input {
    width: 100%;
    min-width: 3.875rem;
    height: var(--touch);
    padding: 0 0.4375rem;
    text-align: right;
    border: 1px solid var(--hair);
    border-radius: 3px;
    background: var(--sheet);
  }
  input[data-typed="true"] {
    border-color: var(--accent);
    background: var(--accent-soft);
    font-weight: 600;
  }
  input[aria-invalid="true"] {
    border: 2px solid var(--stop);
    background: var(--stop-soft);
  }
  .said {
    min-height: 2.625rem;
    margin: 0.5rem 0;
  }
  .said li {
    color: var(--stop);
  }
  ul {
    margin: 4px 0 0;
    padding-left: 1.125rem;
  }
  label.too {
    display: flex;
    gap: 0.5rem;
    align-items: center;
  }
  label.too input {
    width: 1.25rem;
    min-width: 0;
    height: 1.25rem;
  }
`;

const HEADS: Record<(typeof COLUMNS)[number], string> = {
  up: "Off the floor",
  ahead: "Ahead",
  out: "Out",
  bolt: "Bolt, forward / up °",
};

/** What is typed and not taken yet, by the document it was typed for, and taking it. */
function useDrafts(document: Document, units: Units, onClose: () => void) {
  const [drafts, setDrafts] = useTexts("Tape sheet");
  const [odd, setOdd] = useState(false);
  const found = taken(document, drafts, units, odd);
  const put = (more: Drafts) => setDrafts({ ...drafts, ...more });
  const drop = (id: string) =>
    setDrafts(Object.fromEntries(Object.entries(drafts).filter(([key]) => key !== id)));
  const left = { ...found.wrong, ...(odd ? {} : found.odd) };
  const take = () => {
    if (found.moved > 0) useDesign.getState().edit(found.document);
    setDrafts(Object.fromEntries(Object.entries(drafts).filter(([id]) => id in left)));
    return Object.keys(left).length === 0;
  };
  /** Whatever can be read is taken; the rest is said, so that nothing typed is lost without a word. */
  const close = () => {
    const untaken = Object.keys(left).map((id) => `“${drafts[id]!}” (${left[id]!})`);
    if (!take()) useSaid.getState().say(`From the tape sheet these were not taken: ${untaken.join("; ")}`);
    onClose();
  };
  return { drafts, found, left, odd, setOdd, put, drop, take, close };
}

export function TapeSheet({
  document,
  units,
  onClose,
}: {
  document: Document;
  units: Units;
  onClose: () => void;
}) {
  const sheet = useDrafts(document, units, onClose);
  const [at, setAt] = useState<Cell | null>(null);
  const [copying, setCopying] = useState<string | null>(null);
  const waiting = Object.keys(sheet.drafts).length;
  return (
    <Shade isOpen onOpenChange={(open) => !open && sheet.close()}>
      <Wide>
        <Dialog>
          <Heading slot="title">Tape sheet</Heading>
          <Grid {...{ document, units, sheet }} onLook={setAt} />
          <div className="said" role="status">
            {at && <p>{understood(document, at, sheet.drafts[at.id], units)}</p>}
            {Object.keys(sheet.left).length > 0 && (
              <ul>
                {Object.entries(sheet.left).map(([id, why]) => (
                  <li key={id}>
                    “{sheet.drafts[id]}”: {why}
                  </li>
                ))}
              </ul>
            )}
            {Object.keys(sheet.found.odd).length > 0 && (
              <label className="too">
                <input
                  type="checkbox"
                  checked={sheet.odd}
                  onChange={(event) => sheet.setOdd(event.target.checked)}
                />
                Take places below the floor or far off the truck too: they are meant
              </label>
            )}
            {copying && <p>{copying}</p>}
          </div>
          <div className="choices">
            <Button className="main" isDisabled={sheet.found.moved === 0} onPress={sheet.take}>
              {waiting === 0 ? "Take it" : `Take ${waiting - Object.keys(sheet.left).length} figures`}
            </Button>
            <InAndOut {...{ document, units }} onRead={sheet.put} onSaid={setCopying} />
            <Button onPress={sheet.close}>Close</Button>
          </div>
        </Dialog>
      </Wide>
    </Shade>
  );
}

interface GridProps {
  document: Document;
  units: Units;
  sheet: ReturnType<typeof useDrafts>;
  onLook: (cell: Cell) => void;
}

function Grid({ document, units, sheet, onLook }: GridProps) {
  const body = useRef<HTMLTableSectionElement>(null);
  const rows = rowsOf(document);
  const grid = rows.map((row) => cellsOf(document, row));
  /** The next cell down its column, or up; from its end, the head of the next column. */
  const walk = (cell: Cell, way: 1 | -1): boolean => {
    const order = grid[0]!.flatMap((_, column) => grid.map((row) => row[column]).filter((c) => !!c));
    const next = order[order.findIndex((one) => one.id === cell.id) + way];
    const field =
      next && body.current?.querySelector<HTMLInputElement>(`[data-cell="${CSS.escape(next.id)}"]`);
    field?.focus();
    return !!field;
  };
  return (
    <table>
      <thead>
        <tr>
          <td />
          <th scope="colgroup" colSpan={COLUMNS.length}>
            Left
          </th>
          <th scope="colgroup" colSpan={COLUMNS.length}>
            Right
          </th>
        </tr>
        <tr>
          <th scope="col">Mount, {unitSign(units)}</th>
          {["left", "right"].flatMap((side) =>
            COLUMNS.map((column) => (
              <th key={side + column} scope="col">
                {HEADS[column]}
              </th>
            )),
          )}
        </tr>
      </thead>
      <tbody ref={body}>
        {rows.map((row, n) => (
          <tr key={row.label + String(n)}>
            <th scope="row">{row.label}</th>
            {grid[n]!.map((cell, column) => (
              <td key={column} className={column === COLUMNS.length ? "right" : ""}>
                {cell && (
                  <CellField
                    {...{ document, cell, units, sheet, onLook, walk }}
                    label={`${row.label}, ${column < COLUMNS.length ? "left" : "right"}, ${HEADS[cell.column]}`}
                    onPaste={(block) => sheet.put(pasted(grid, cell, block))}
                  />
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function CellField(
  props: GridProps & {
    cell: Cell;
    label: string;
    walk: (cell: Cell, way: 1 | -1) => boolean;
    onPaste: (block: string) => void;
  },
) {
  const { document, cell, units, sheet, label, onLook, walk } = props;
  const draft = sheet.drafts[cell.id];
  const press = (event: KeyboardEvent) => {
    if (event.key === "Escape" && draft !== undefined) {
      event.stopPropagation();
      sheet.drop(cell.id);
    }
    const way = { Enter: 1, Tab: 1, ArrowDown: 1, ArrowUp: -1 }[event.key] as 1 | -1 | undefined;
    if (way === undefined || event.ctrlKey || event.metaKey) return;
    if (walk(cell, event.shiftKey ? -1 : way) || event.key === "Enter") event.preventDefault();
  };
  const paste = (event: ClipboardEvent) => {
    const block = event.clipboardData.getData("text/plain");
    if (!/[\t\n]/.test(block.trim())) return;
    event.preventDefault();
    props.onPaste(block);
  };
  return (
    <input
      aria-label={label}
      data-cell={cell.id}
      data-typed={draft !== undefined}
      aria-invalid={cell.id in sheet.left}
      value={draft ?? stands(document, cell, units)}
      spellCheck={false}
      autoComplete="off"
      onFocus={(event) => {
        event.target.select();
        onLook(cell);
      }}
      onChange={(event) => sheet.put({ [cell.id]: event.target.value })}
      onKeyDown={press}
      onPaste={paste}
    />
  );
}

/** The sheet copied, saved as a file, and a file read into it. */
function InAndOut(props: {
  document: Document;
  units: Units;
  onRead: (drafts: Drafts) => void;
  onSaid: (words: string) => void;
}) {
  const { document, units, onRead, onSaid } = props;
  const copy = async () => onSaid(await put(copied(document, units)));
  const bring = async (list: FileList | null) => {
    const file = list?.[0];
    if (!file) return;
    const read = fromCsv(document, await file.text(), units);
    if (typeof read !== "string") onRead(read.drafts);
    onSaid(typeof read === "string" ? read : broughtWords(read));
  };
  return (
    <>
      <Button onPress={() => void copy()}>Copy it all</Button>
      <Button onPress={() => save(document, units)}>Save as CSV</Button>
      <FileTrigger acceptedFileTypes={[".csv", "text/csv"]} onSelect={(list) => void bring(list)}>
        <Button>Bring in CSV</Button>
      </FileTrigger>
    </>
  );
}

/** What a file brought into the sheet, to be looked at before it is taken. */
export function broughtWords({ drafts, unknown }: FromCsv): string {
  const count = Object.keys(drafts).length;
  const figures = count === 1 ? "1 figure differs" : `${count} figures differ`;
  const odd =
    unknown.length === 0 ? "" : ` No mount here is called ${unknown.map((name) => `“${name}”`).join(", ")}.`;
  return `${count === 0 ? "Nothing in it differs" : `${figures}: look at them, then take them`}.${odd}`;
}

/** The sheet as a file of this design's name. */
function save(document: Document, units: Units): void {
  giveText(csvOf(document, units), "text/csv", `${plainName(document.name)}-mounts.csv`);
}

/** How what is typed in a cell is understood, and what stands there. */
export function understood(document: Document, cell: Cell, draft: string | undefined, units: Units): string {
  const was = stands(document, cell, units);
  const unit = cell.column === "bolt" ? "" : ` ${unitSign(units)}`;
  if (draft === undefined) return `Stands at ${was}${unit}.`;
  const read = readCell(draft, cell, units);
  if (typeof read === "string") return read;
  if (read === null) return `Bolt square to its link; it was ${was}.`;
  if (typeof read !== "number")
    return `Bolt ${boltAngles(read)
      .map((angle) => `${plain(angle, 1)}°`)
      .join(" forward, ")} up at its left end; it was ${was}.`;
  return `Understood as ${length(Math.abs(read), units)}${read < 0 ? SIDE[cell.column] : ""}; it was ${was}${unit}.`;
}

const SIDE: Record<string, string> = {
  up: " below the floor",
  ahead: " behind the axle",
  out: " to the right",
};

/** On the clipboard; where the browser keeps that from a page of the shop's network, by the older way. */
async function put(text: string): Promise<string> {
  try {
    await navigator.clipboard.writeText(text);
    return "The sheet is on the clipboard: paste it into a spreadsheet.";
  } catch {
    return "The browser keeps the clipboard from this page. Open it on this machine’s own address, or save the design file.";
  }
}
