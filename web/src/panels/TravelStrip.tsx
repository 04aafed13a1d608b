/** The travel strip: up and down as the wheel goes; and the twist, one wheel against the other. */

import { memo } from "react";
import { Slider, SliderThumb, SliderTrack } from "react-aria-components";
import styled from "styled-components";

import { increment, length, plain, type Units } from "../units/tape";

const Upright = styled(Slider)`
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto;
  row-gap: 0.875rem;
  justify-items: center;
  height: 100%;
  padding: 0.625rem 0 0.75rem;
  font-size: 0.8125rem;
  color: var(--quiet);
  text-align: center;
  .track {
    position: relative;
    width: 2.5rem;
    height: 100%;
    margin: 0;
  }
  .bar {
    position: absolute;
    left: 1.1875rem;
    width: 2px;
    top: 0;
    bottom: 0;
    background: var(--line);
  }
`;

const Level = styled(Slider)`
  display: grid;
  grid-template-columns: auto 1fr auto;
  align-items: center;
  gap: 0.75rem;
  font-size: 0.875rem;
  .track {
    position: relative;
    height: 2.5rem;
    margin: 0 0.75rem;
  }
  .bar {
    position: absolute;
    top: 1.1875rem;
    height: 2px;
    left: 0;
    right: 0;
    background: var(--line);
  }
  .ride {
    position: absolute;
    left: 50%;
    top: 0.75rem;
    height: 1rem;
    width: 1px;
    background: var(--line);
  }
  output {
    min-width: 5.5em;
    text-align: right;
  }
`;

const Thumb = styled(SliderThumb)`
  width: 1.875rem;
  height: 1.125rem;
  border-radius: 4px;
  background: var(--accent);
  border: 2px solid var(--sheet);
  outline: 1px solid var(--accent);
  cursor: grab;
  &.upright {
    left: 50%;
  }
  &.level {
    top: 50%;
    width: 1.125rem;
    height: 1.875rem;
  }
  &[data-focus-visible] {
    outline: 3px solid var(--accent);
    outline-offset: 2px;
  }
`;

const Mark = styled.span`
  position: absolute;
  left: 0.75rem;
  width: 1rem;
  border-top: 1px solid var(--line);
  &.ride {
    left: 0.25rem;
    width: 2rem;
    border-top: 2px solid var(--ink);
  }
  &.worst {
    left: 1.875rem;
    width: 0;
    border: 5px solid transparent;
    border-right: 8px solid var(--stop);
    translate: 0 -50%;
  }
  &.stop {
    left: 0;
    width: 2.5rem;
    background: repeating-linear-gradient(45deg, var(--stop) 0 2px, transparent 2px 7px);
    border: 0;
  }
`;

export const TravelStrip = memo(function TravelStrip(props: {
  bump: number;
  droop: number;
  low: number | null;
  high: number | null;
  /** Travels at which findings are worst. */
  marks: readonly number[];
  travel: number;
  units: Units;
  onTravel: (travel: number) => void;
}) {
  const { bump, droop, low, high, travel, units } = props;
  const step = increment(units, "shop") / 2;
  const [least, most] = [-Math.ceil(droop / step - 1e-9), Math.ceil(bump / step - 1e-9)];
  const from = (n: number) => Math.min(Math.max(n * step, -droop), bump);
  const percent = (t: number) => `${(100 * (bump - t)) / Math.max(bump + droop, 1)}%`;
  const inch = increment(units, "coarse") * 2;
  const marks = [...Array(Math.floor(bump / inch) + Math.floor(droop / inch) + 1).keys()].map(
    (n) => (n - Math.floor(droop / inch)) * inch,
  );
  return (
    <Upright
      orientation="vertical"
      minValue={least}
      maxValue={most}
      value={Math.round(travel / step)}
      onChange={(n) => props.onTravel(from(n as number))}
      aria-label="Travel"
    >
      <span>
        Bump
        <br />
        {length(bump, units)}
      </span>
      <SliderTrack className="track">
        <span className="bar" />
        {marks.map((t) => (
          <Mark key={t} style={{ top: percent(t) }} />
        ))}
        <Mark className="ride" style={{ top: percent(0) }} />
        {props.marks.map((t) => (
          <Mark key={`worst ${t}`} className="worst" style={{ top: percent(t) }} />
        ))}
        {high !== null && <Mark className="stop" style={{ top: 0, height: percent(high) }} />}
        {low !== null && <Mark className="stop" style={{ top: percent(low), bottom: 0 }} />}
        <Thumb className="upright" aria-valuetext={saidTravel(travel, units)} />
      </SliderTrack>
      <span>
        {length(droop, units)}
        <br />
        Droop
      </span>
    </Upright>
  );
});

export const saidTravel = (travel: number, units: Units): string =>
  Math.abs(travel) < 0.05
    ? "Ride height"
    : `${length(Math.abs(travel), units)} ${travel > 0 ? "up" : "down"}`;

export const TwistStrip = memo(function TwistStrip(props: {
  most: number;
  twist: number;
  onTwist: (degrees: number) => void;
}) {
  const { most, twist } = props;
  const steps = Math.ceil(most * 2 - 1e-9);
  if (steps === 0) return null;
  const words =
    Math.abs(twist) < 0.01 ? "level" : `${twist > 0 ? "left" : "right"} up ${plain(Math.abs(twist), 1)}°`;
  return (
    <Level
      minValue={-steps}
      maxValue={steps}
      value={Math.round(twist * 2)}
      onChange={(n) => props.onTwist(Math.min(Math.max((n as number) / 2, -most), most))}
      aria-label="Articulation"
    >
      <span>Articulation</span>
      <SliderTrack className="track">
        <span className="bar" />
        <span className="ride" />
        <Thumb className="level" aria-valuetext={words} />
      </SliderTrack>
      <output>{words}</output>
    </Level>
  );
});
