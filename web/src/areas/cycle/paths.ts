/** Paths that a wheel takes: where the axle stands at each part of the way, 0 to 1. */

import type { Scrub } from "../../state/scrub";

type Reach = { bump: number; droop: number; articulation: number };
type Path = (part: number, reach: Reach) => Scrub;

/** Along corner points in turn, each (part, travel in parts of bump or droop, twist in parts), softly. */
function along(points: readonly (readonly [at: number, travel: number, twist: number])[]): Path {
  return (part, { bump, droop, articulation }) => {
    const next = points.findIndex(([at]) => at >= part);
    const [a, b] = [points[Math.max(next - 1, 0)]!, points[next === -1 ? points.length - 1 : next]!];
    const span = b[0] - a[0];
    const p = span === 0 ? 1 : (part - a[0]) / span;
    const soft = p * p * (3 - 2 * p);
    const mix = (n: 1 | 2) => a[n] + (b[n] - a[n]) * soft;
    const travel = mix(1);
    return { travel: travel > 0 ? travel * bump : travel * droop, articulation: mix(2) * articulation };
  };
}

/** One wheel into a ditch and out on the other side; a curb taken by one wheel; a landing on both. */
export const PATHS: readonly (readonly [words: string, along: Path])[] = [
  ["A ditch", along([[0, 0, 0], [0.25, -0.35, 1], [0.5, -0.1, 0], [0.75, -0.35, -1], [1, 0, 0]])],
  ["A curb", along([[0, 0, 0], [0.2, 0.35, 0.75], [0.45, -0.1, 0.1], [0.65, 0.35, -0.75], [0.85, -0.1, 0], [1, 0, 0]])],
  ["A landing", along([[0, 0, 0], [0.3, -1, 0], [0.5, 1, 0], [0.7, -0.3, 0], [0.85, 0.15, 0], [1, 0, 0]])],
]; // prettier-ignore
