/** What lands on the frame at each mount, and what a person has to judge of it. */

import type { Schemas } from "../../api/client";
import { capital } from "../../document/parts";
import { FigureSection } from "../../ui/tables";
import { forceFigure, showForce, showTorque } from "../../units/forces";
import { inUnits, length, type Units } from "../../units/tape";

type Landing = Schemas["Landing"];

/** Parts of a force below this share of it are not named. */
const LEAST = 0.05;
const WAYS = [
  ["forward", "back"],
  ["left", "right"],
  ["up", "down"],
] as const;

export function Landings(props: { landings: readonly Landing[]; prompts: readonly string[]; units: Units }) {
  const { landings, prompts, units } = props;
  return (
    <FigureSection
      title="What lands on the frame"
      head={["", "The most", "Twists the rail by"]}
      rows={landings.map((one) => [
        capital(one.words),
        <>
          {showForce(one.force, units)} <span className="quiet">{one.case}</span>
          <br />
          <span className="quiet">{waySaid(one, units)}</span>
        </>,
        twistSaid(one, units),
      ])}
    >
      {prompts.map((words) => (
        <p key={words} className="quiet">
          {inUnits(words, units)}
        </p>
      ))}
    </FigureSection>
  );
}

/** The parts of a force that matter, the largest first. */
export function waySaid({ along, force }: Pick<Landing, "along" | "force">, units: Units): string {
  return WAYS.map(([more, less], axis) => ({ way: along[axis]! >= 0 ? more : less, size: Math.abs(along[axis]!) }))
    .filter(({ size }) => size >= LEAST * force)
    .sort((a, b) => b.size - a.size)
    .map(({ way, size }) => `${way} ${forceFigure(size, units)}`)
    .join(", "); // prettier-ignore
}

function twistSaid({ rail, twist, lever, twist_case }: Landing, units: Units) {
  if (rail === null || twist === null) return "–";
  return (
    <>
      {showTorque(twist / 1000, units)} <span className="quiet">{twist_case}</span>
      <br />
      <span className="quiet">
        passes it by {length(lever!, units)}, {rail} rail
      </span>
    </>
  );
}
