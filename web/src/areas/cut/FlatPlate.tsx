/** A plate as it lies on the table, with its holes. */

import type { Plate } from "./plate";

const WIDE = 132;

export function FlatPlate({ plate }: { plate: Plate }) {
  const [us, vs] = [plate.outline.map(([u]) => u), plate.outline.map(([, v]) => v)];
  const [left, low] = [Math.min(...us) - 4, Math.min(...vs) - 4];
  const [wide, high] = [Math.max(...us) + 4 - left, Math.max(...vs) + 4 - low];
  const at = ([u, v]: readonly [number, number]) => `${(u - left).toFixed(2)},${(low + high - v).toFixed(2)}`;
  return (
    <svg
      role="img"
      aria-label={`Plate ${plate.part}`}
      viewBox={`0 0 ${wide} ${high}`}
      width={WIDE}
      height={(WIDE * high) / wide}
    >
      <polygon
        points={plate.outline.map(at).join(" ")}
        fill="var(--hair)"
        stroke="var(--ink)"
        strokeWidth={1}
        vectorEffect="non-scaling-stroke"
      />
      {plate.holes.map(([u, v, across], n) => (
        <circle
          key={n}
          cx={u - left}
          cy={low + high - v}
          r={across / 2}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth={1}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}
