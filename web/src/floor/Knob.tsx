/** What is taken hold of on the floor beside mounts: how it looks, and which ways it goes. */

import styled from "styled-components";

import { f, type View } from "./geometry";

export const Knob = styled.g`
  cursor: grab;
  outline: none;
  .touch {
    fill: transparent;
  }
  .knob {
    fill: none;
    stroke: var(--accent);
    stroke-width: 4;
    stroke-linecap: round;
  }
  &:focus-visible .knob {
    stroke-width: 7;
  }
`;

/** The axes that a view shows. */
export const SHOWN: Record<View, readonly number[]> = { side: [0, 2], top: [0, 1], rear: [1, 2] };

/** A cross for the whole of it; else a bar square to the way that it moves, a corner where it moves both ways. */
export function markOf(whole: boolean, free: readonly number[], view: View, x: number, y: number): string {
  const [across, down] = SHOWN[view].map((axis) => free.includes(axis));
  const upright = `M${f(x)} ${f(y - 7)}V${f(y + 7)}`;
  const level = `M${f(x - 7)} ${f(y)}H${f(x + 7)}`;
  if (whole) return upright + level;
  if (across && down) return `M${f(x - 6)} ${f(y + 5)}L${f(x)} ${f(y - 5)}L${f(x + 6)} ${f(y + 5)}`;
  return across ? upright : level;
}
