/** The strip on top of every screen: where one is, whether it is stored, units, theme. */

import { memo } from "react";
import { Link, NavLink } from "react-router";
import styled from "styled-components";

import { type Sync, useDesign } from "../state/design";
import { UNIT_NAMES, type Units } from "../units/tape";
import { Button, Choice } from "../ui/controls";
import { usePreferences } from "../state/preferences";

const Bar = styled.header`
  display: flex;
  align-items: center;
  gap: 0.5rem;
  padding: 0.25rem 0.75rem;
  border-bottom: 1px solid var(--hair);
  min-height: 3.125rem;
  @media (max-width: 1000px) {
    flex-wrap: wrap;
    row-gap: 4px;
  }
  a {
    color: inherit;
    font-weight: 600;
    display: flex;
    align-items: center;
    gap: 0.5rem;
    text-decoration: none;
    min-height: 2.25rem;
  }
  a:first-child {
    white-space: nowrap;
    flex: none;
  }
  a:hover {
    text-decoration: underline;
  }
  button {
    padding-inline: 0.4375rem;
  }
  nav {
    display: flex;
    border: 1px solid var(--line);
    border-radius: 4px;
    overflow: hidden;
  }
  nav a {
    padding: 4px 0.4375rem;
    font-weight: 400;
    background: var(--sheet);
    min-height: calc(var(--touch) - 2px);
  }
  nav a[aria-current="page"] {
    background: var(--accent-soft);
    font-weight: 600;
  }
  h1 {
    font-size: 1.125rem;
    font-weight: 600;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
    min-width: 0;
  }
  .named {
    min-width: 0;
  }
  .why {
    font-size: 0.7812rem;
    line-height: 1.2;
    color: var(--quiet);
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .build {
    @media (max-width: 1400px) {
      display: none;
    }
    max-width: 12em;
    overflow: hidden;
    text-overflow: ellipsis;
    color: var(--quiet);
    white-space: nowrap;
  }
  .right {
    margin-left: auto;
    display: flex;
    gap: 0.375rem;
    align-items: center;
    flex: none;
    @media (max-width: 1000px) {
      margin-left: 0;
      flex: 1 1 100%;
      flex-wrap: wrap;
    }
  }
`;

const State = styled.span`
  font-size: 0.875rem;
  color: var(--quiet);
  white-space: nowrap;
  &[data-state="held"],
  &[data-state="refused"],
  &[data-state="conflict"] {
    color: var(--stop);
    font-weight: 600;
  }
`;

const PAPERS = { a3: "A3", a4: "A4", "11x17": "11x17", letter: "Letter" };
const BY_UNITS: Record<"mm" | "inch", (keyof typeof PAPERS)[]> = {
  mm: ["a3", "a4", "11x17", "letter"],
  inch: ["11x17", "letter", "a3", "a4"],
};

/** The shop drawing, to print or to keep: on the papers that are at hand where these units are. */
function SheetMenu({ design, units }: { design: number; units: Units }) {
  const open = (address: string) => window.open(`/api/designs/${design}/${address}`, "_blank", "noopener");
  const papers = BY_UNITS[units === "mm" ? "mm" : "inch"];
  const sheets = (["pdf", "svg"] as const).flatMap((kind) =>
    papers.map(
      (paper) =>
        [
          `sheet.${kind}?units=${units}&paper=${paper}`,
          `Shop drawing, ${PAPERS[paper]}, ${kind.toUpperCase()}`,
        ] as const,
    ),
  );
  return (
    <Choice
      label="Shop drawing"
      placeholder="Drawing"
      value={null}
      options={[...sheets, ["cycle.csv", "Cycle, every row, CSV"], ["room.dxf", "Room, full size, DXF"]]}
      onChange={open}
    />
  );
}

const said = (sync: Sync, number: number | undefined): string => {
  if (sync.state === "stored") return number === undefined ? "" : `Stored, revision ${number}`;
  if (sync.state === "storing") return "Storing…";
  if (sync.state === "held") return "Not stored yet: edits are held here";
  if (sync.state === "refused") return "Last edit refused";
  return sync.state === "conflict" ? "Two edits: choose" : "Deleted";
};

function Titles({ name, build, why }: { name: string; build: string | undefined; why: string | undefined }) {
  return (
    <>
      <span className="build">{build}</span>
      <div className="named">
        <h1 title={name}>{name}</h1>
        {why && (
          <p className="why" title={why}>
            {why}
          </p>
        )}
      </div>
    </>
  );
}

const AREAS = [
  ["room", "Room"],
  ["links", "Links"],
  ["cycle", "Cycle"],
  ["corners", "Corners"],
  ["weigh", "Weigh up"],
  ["cut", "Cut sheet"],
  ["fit-up", "Fit-up"],
] as const;

/** The areas of the open design that stand on the floor. */
function Areas({ design }: { design: number }) {
  return (
    <nav aria-label="Areas">
      {AREAS.map(([area, name]) => (
        <NavLink key={area} to={`/designs/${design}/${area}`}>
          {name}
        </NavLink>
      ))}
    </nav>
  );
}

export const Header = memo(function Header(props: {
  name?: string;
  build?: string;
  /** Why there is this design. */
  why?: string;
  design?: number;
  onHistory?: () => void;
  onTruck?: () => void;
  onHelp?: () => void;
}) {
  const { name, build, why, design, onHistory, onTruck, onHelp } = props;
  const { units, setUnits, theme, setTheme } = usePreferences();
  const sync = useDesign((s) => s.sync);
  const number = useDesign((s) => s.stored?.number);
  const canUndo = useDesign((s) => s.past.length > 0);
  const canRedo = useDesign((s) => s.future.length > 0);
  const { undo, redo } = useDesign.getState();
  return (
    <Bar>
      <Link to="/">
        <img src="/mark.svg" alt="" width={24} height={24} />
        Oak Lever
      </Link>
      {name !== undefined && <Titles {...{ name, build, why }} />}
      <div className="right">
        {name !== undefined && (
          <>
            <State role="status" data-state={sync.state} data-testid="stored-state">
              {said(sync, number)}
            </State>
            {design !== undefined && <Areas design={design} />}
            {onTruck && <Button onPress={onTruck}>Truck</Button>}
            {onHistory && <Button onPress={onHistory}>History</Button>}
            {design !== undefined && <SheetMenu design={design} units={units} />}
            <Button isDisabled={!canUndo} onPress={undo}>
              Undo
            </Button>
            <Button isDisabled={!canRedo} onPress={redo}>
              Redo
            </Button>
            {onHelp && (
              <Button aria-label="All keys" onPress={onHelp}>
                ?
              </Button>
            )}
          </>
        )}
        <Choice
          label="Units"
          value={units}
          options={Object.entries(UNIT_NAMES) as [Units, string][]}
          onChange={setUnits}
        />
        <Button onPress={() => setTheme(theme === "light" ? "dark" : "light")}>
          {theme === "light" ? "Dark" : "Light"}
        </Button>
      </div>
    </Bar>
  );
});
