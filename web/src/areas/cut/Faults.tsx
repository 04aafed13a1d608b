/** What can't be made as drawn, each at its place; all else is made. */

import { Trouble } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { inUnits } from "../../units/tape";
import type { CutOut } from "./plate";

export function Faults(props: { of: CutOut | null | undefined; within: RegExp; units: Units }) {
  const faults = (props.of?.faults ?? []).filter(({ path }) => props.within.test(path));
  return faults.map(({ path, message }) => (
    <Trouble key={`${path} ${message}`} role="alert">
      {inUnits(message, props.units)}.
    </Trouble>
  ));
}
