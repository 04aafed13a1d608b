/** Severity as a shape as well as a word. */

import type { Finding } from "../api/client";

export const SEVERITIES: Record<Finding["severity"], string> = {
  stop: "Stop",
  fix: "Fix",
  consider: "Consider",
  good: "Good",
};

const SHAPES: Record<Finding["severity"], { d: string; fill: string }> = {
  stop: { d: "M2 2H14V14H2Z", fill: "var(--stop)" },
  fix: { d: "M8 1.5L15 14H1Z", fill: "var(--stop)" },
  consider: { d: "M8 2A6 6 0 1 1 8 14A6 6 0 1 1 8 2Z", fill: "none" },
  good: { d: "M2.5 8.5L6.5 12.5L13.5 4", fill: "none" },
};

export function Mark({ severity }: { severity: Finding["severity"] }) {
  const { d, fill } = SHAPES[severity];
  return (
    <svg width={16} height={16} aria-hidden="true">
      <path d={d} fill={fill} stroke={fill === "none" ? "var(--ink)" : fill} strokeWidth={1.8} />
    </svg>
  );
}
