/** What the readings come to: each figure with its uncertainty, beside what is in force, to be taken by hand. */

import { useState } from "react";
import styled from "styled-components";

import { NO_SERVER, reasonOf, type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { showTruck } from "../../figures/truck";
import { useDesign } from "../../state/design";
import { RadiusAsk, radiusEnd } from "../../panels/RadiusAsk";
import { taken } from "../../state/room";
import { withFigure, withSource } from "../../panels/TruckFigures";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Button, Trouble } from "../../ui/controls";
import { plain, type Units } from "../../units/tape";
import { showFigure } from "./reading";
import { Scrolled } from "./Scrolled";
import { Wanted } from "./Wanted";

const Graded = styled(Scrolled)`
  .value {
    font-weight: 600;
    white-space: nowrap;
  }
  form input {
    height: var(--touch);
    padding: 0 0.375rem;
    border: 1px solid var(--line);
    border-radius: 4px;
    background: var(--sheet);
    color: var(--ink);
  }
  .outside {
    color: var(--stop);
    font-weight: 600;
  }
`;

type Figure = Schemas["BaselineOut"]["figures"][number];

export function Results(props: {
  told: Schemas["BaselineOut"];
  truck: TruckDocument;
  document: Document;
  units: Units;
}) {
  const { told, truck, document, units } = props;
  return (
    <>
      {told.hints.map((hint) => (
        <Trouble key={hint}>{hint}</Trouble>
      ))}
      {told.figures.length + told.unsettled.length === 0 ? (
        <p className="quiet">
          Nothing yet. Level the frame on stands, add a mark or two on it, and take their heights off the
          floor; then distances from marks to the hubs, the pinion off a gauge, and weights.
        </p>
      ) : (
        <Graded>
          <table>
            <thead>
              <tr>
                <th scope="col">Figure</th>
                <th scope="col">Measured</th>
                <th scope="col">Wanted</th>
                <th scope="col">In force</th>
              </tr>
            </thead>
            <tbody>
              {told.figures.map((figure) => (
                <Row key={figure.id} {...{ figure, truck, document, units }} />
              ))}
              <Disagreeing told={told} />
            </tbody>
          </table>
        </Graded>
      )}
    </>
  );
}

/** A figure of the open design’s own that a reading gives, and how it is taken; null for what is none. */
function ownOf(figure: Figure, document: Document): (() => Promise<string | null>) | null {
  const { id, value } = figure;
  const { end } = document.axle;
  const shaft = document.driveshaft;
  if (id === `${end}_pinion`) return shaft ? () => asRead(value) : null;
  if (!shaft) return null;
  const withCase = (more: Partial<NonNullable<Document["driveshaft"]>["case"]>) => () =>
    taken((now) =>
      now.driveshaft
        ? { ...now, driveshaft: { ...now.driveshaft, case: { ...now.driveshaft.case, ...more } } }
        : now,
    );
  // one case has both outputs, in line: what points down on its way back points up on its way forward
  if (id === "case_output") return withCase({ angle: end === "rear" ? value : -value });
  if (end === "front") return null;
  const [x, , z] = shaft.case.joint;
  if (id === "output_offset") return withCase({ joint: [x, value, z] });
  return id === "output_turn" ? withCase({ turn: value }) : null;
}

/** The open design with its pinion as it was read: the housing turned in its brackets, its joint with it. */
async function asRead(value: number): Promise<string | null> {
  const { document, edit } = useDesign.getState();
  if (!document) return null;
  const read = { value: Math.abs(value), points: value < 0 ? "down" : "up" } as const;
  const answer = await server
    .turnPinion({ document, ...read, zero: "level", face: "along", frame_pitch: 0, travel: 0, soft: 0, how: "brackets" })
    .catch(() => null); // prettier-ignore
  if (!answer?.data) return answer ? reasonOf(answer.error) : NO_SERVER;
  if (useDesign.getState().document !== document) return await asRead(value);
  edit(answer.data.turned.as_read as Document);
  return null;
}

interface RowProps {
  figure: Figure;
  truck: TruckDocument;
  document: Document;
  units: Units;
}

const shown = (value: number, unit: Figure["unit"], units: Units): string =>
  unit === "deg" ? `${plain(value, 1)}°` : showTruck(value, unit, units);

function Row({ figure, truck, document, units }: RowProps) {
  const edit = useTruck((s) => s.edit);
  const [asked, setAsked] = useState(false);
  const [why, setWhy] = useState<string | null>(null);
  const { path, take } = figure;
  const end = path === null ? null : radiusEnd(path);
  const own = ownOf(figure, document);
  const taking = () => {
    if (own) void own().then(setWhy);
    else if (end) setAsked(true);
    else if (path !== null && take !== null)
      void edit(withSource(withFigure(truck, path, take), path, "measured"));
  };
  const value = own ? figure.value : take;
  const words = value === null ? "" : shown(value, figure.unit, units);
  return (
    <>
      <tr>
        <th scope="row">{figure.words}</th>
        <td className="value">{showFigure(figure.value, figure.sigma, figure.unit, units)}</td>
        <td>
          <Wanted {...{ figure, truck, units }} />
        </td>
        <td>
          {figure.stands === null ? "" : shown(figure.stands, figure.unit, units)}{" "}
          {(own !== null || take !== null) && (
            <Button aria-label={`Take ${words}: ${figure.words.toLowerCase()}`} onPress={taking}>
              Take {words}
            </Button>
          )}
        </td>
      </tr>
      {(why !== null || (asked && end && take !== null)) && (
        <tr>
          <td colSpan={4}>
            {why !== null && <Trouble role="alert">{why}</Trouble>}
            {asked && end && take !== null && (
              <RadiusAsk
                {...{ truck, end, radius: take, units }}
                source="measured"
                onDone={() => setAsked(false)}
              />
            )}
          </td>
        </tr>
      )}
    </>
  );
}

/** What its readings disagree about gives no figure, and nothing to take. */
function Disagreeing({ told }: { told: Schemas["BaselineOut"] }) {
  return told.unsettled.map((one) => (
    <tr key={one.id}>
      <th scope="row">{one.words}</th>
      <td colSpan={3} className="outside">
        {one.why}
      </td>
    </tr>
  ));
}
