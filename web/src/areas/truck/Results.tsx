/** What the readings come to: each figure with its uncertainty, beside what is in force, to be taken by hand. */

import styled from "styled-components";

import type { Schemas } from "../../api/client";
import { showTruck } from "../../figures/truck";
import { withFigure, withSource } from "../../shell/TruckSheet";
import { type TruckDocument, useTruck } from "../../shell/truck";
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

export function Results(props: { told: Schemas["BaselineOut"]; truck: TruckDocument; units: Units }) {
  const { told, truck, units } = props;
  return (
    <>
      {told.hints.map((hint) => (
        <Trouble key={hint}>{hint}</Trouble>
      ))}
      {told.figures.length === 0 ? (
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
                <Row key={figure.id} {...{ figure, truck, units }} />
              ))}
            </tbody>
          </table>
        </Graded>
      )}
    </>
  );
}

function Row({ figure, truck, units }: { figure: Figure; truck: TruckDocument; units: Units }) {
  const edit = useTruck((s) => s.edit);
  const { path, take } = figure;
  const taking = () => {
    if (path !== null && take !== null)
      void edit(withSource(withFigure(truck, path, take), path, "measured"));
  };
  const taken = take === null ? "" : showTruck(take, figure.unit === "deg" ? "" : figure.unit, units);
  const stands =
    figure.stands === null
      ? ""
      : figure.unit === "deg"
        ? `${plain(figure.stands, 1)}°`
        : showTruck(figure.stands, figure.unit, units);
  return (
    <tr>
      <th scope="row">{figure.words}</th>
      <td className="value">{showFigure(figure.value, figure.sigma, figure.unit, units)}</td>
      <td>
        <Wanted {...{ figure, truck, units }} />
      </td>
      <td>
        {stands}{" "}
        {path !== null && take !== null && (
          <Button aria-label={`Take ${taken}: ${figure.words.toLowerCase()}`} onPress={taking}>
            Take {taken}
          </Button>
        )}
      </td>
    </tr>
  );
}
