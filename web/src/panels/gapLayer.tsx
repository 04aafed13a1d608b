/** The nearest points of the pair that is looked at, drawn on the floor. */

import { useMemo } from "react";

import type { Layer } from "../floor/Drawing";
import { projector } from "../floor/geometry";
import type { Units } from "../units/tape";
import { GapLine, useGap } from "./Gaps";

export function useGapLayer(units: Units): readonly Layer[] {
  const gap = useGap((s) => s.here);
  return useMemo(
    () => [
      {
        lines: (view, aim, cell) =>
          gap && <GapLine here={gap} to={projector(view, aim, cell)} units={units} />,
        grips: () => null,
      },
    ],
    [gap, units],
  );
}
