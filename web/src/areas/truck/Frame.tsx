/** How the frame's rails are made: what lands on them twists an open rail otherwise than a boxed one. */

import { useState } from "react";
import styled from "styled-components";

import type { Schemas } from "../../api/client";
import { numeric } from "../../document/typed";
import { Sizes } from "../../panels/Sizes";
import { type TruckDocument, useTruck } from "../../state/truck";
import { Choice, Trouble } from "../../ui/controls";
import { lengthFigure, readLength, type Units } from "../../units/tape";

const Rail = styled.div`
  display: grid;
  gap: 0.25rem;
  justify-items: start;
  margin-bottom: 0.75rem;
  form {
    grid-template-columns: 10rem auto;
    gap: 0.5rem;
  }
`;

type Rails = NonNullable<TruckDocument["rails"]>;
type Make = Schemas["RailMake"];
type Side = "left" | "right";

const UNSAID = "unsaid";
const MADE = [
  [UNSAID, "Not said"],
  ["open", "Open C, flanges inward"],
  ["boxed", "Boxed"],
  ["tube", "Round tube"],
] as const;
type Made = (typeof MADE)[number][0];

/** A rail with another make; one of which nothing is said any more is left out. */
export function withMake(rails: Rails, side: Side, change: Partial<Make>): Rails {
  const make = { ...rails[side], ...change };
  return { ...rails, [side]: make.made == null && make.wall == null ? null : make };
}

export function Frame({ truck, units }: { truck: TruckDocument; units: Units }) {
  const edit = useTruck((s) => s.edit);
  const [why, setWhy] = useState<string | null>(null);
  const { rails } = truck;
  if (!rails) return null;
  const take = (side: Side, change: Partial<Make>) =>
    edit({ ...truck, rails: withMake(rails, side, change) });
  const put = (side: Side, made: Made) => void take(side, { made: made === UNSAID ? null : made });
  return (
    <section aria-label="The frame’s rails">
      <h2>The frame’s rails</h2>
      <p className="quiet">
        Loads reckons how the forces of the mounts twist them. The right one is taken as the left where
        nothing is said of it.
      </p>
      {(["left", "right"] as const).map((side) => (
        <Rail key={side}>
          <h3>{side === "left" ? "Left rail" : "Right rail"}</h3>
          <Choice<Made>
            label={`How the ${side} rail is made`}
            value={rails[side]?.made ?? UNSAID}
            options={side === "right" ? [[UNSAID, "As the left"], ...MADE.slice(1)] : MADE}
            onChange={(made) => put(side, made)}
          />
          <Sizes<Make>
            of={side}
            label={`Wall of the ${side} rail`}
            submit="Take this wall"
            fields={[
              numeric(
                "wall",
                "Its wall",
                rails[side]?.wall == null ? "" : lengthFigure(rails[side].wall, units),
                (text) => readLength(text, units),
                (one, wall) => ({ ...one, wall }),
              ),
            ]}
            part={rails[side] ?? {}}
            onWhy={setWhy}
            onTake={(make) => take(side, { wall: make.wall })}
          />
        </Rail>
      ))}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </section>
  );
}
