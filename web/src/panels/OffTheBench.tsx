/** Taking what an instrument on the bench reads, instead of typing it. */

import { useState } from "react";

import { NO_SERVER, reasonOf, type Schemas, server } from "../api/client";
import { useAsked } from "../solve/asking";
import { Button } from "../ui/controls";
import { plain, type Units } from "../units/tape";

const MM_PER_INCH = 25.4;

/** What was read as it would be typed, as finely as the instrument has it. */
export function typedOf({ value, unit }: Schemas["ReadOut"], units: Units): string {
  if (unit === "deg") return plain(value, 2);
  if (unit === "kg" || unit === "lb") return `${plain(value, 1)} ${unit}`;
  const mm = unit === "in" ? value * MM_PER_INCH : value;
  return units === "mm" ? `${plain(mm, 1)} mm` : `${plain(mm / MM_PER_INCH, 3)} in`;
}

export function OffTheBench(props: {
  /** What to ask which instrument for; null where that is not known yet. */
  asked: Schemas["ReadIn"] | null;
  /** What the gauge is zeroed on; null where no gauge is asked. */
  zero: Schemas["ZeroIn"]["on"] | null;
  units: Units;
  onRead: (text: string) => void;
}) {
  const { asked, zero, units, onRead } = props;
  const there = useAsked("instruments", (signal) => server.instruments(signal), 0);
  const [said, setSaid] = useState<string | null>(null);
  if (!there.data || there.data.names.length === 0) return null;
  const tried = async (what: () => Promise<string | null>) => {
    setSaid(null);
    setSaid(await what().catch(() => NO_SERVER));
  };
  const read = async () => {
    if (!asked) return "Say first what is to be read.";
    const { data, error } = await server.readInstrument(asked);
    if (!data) return reasonOf(error);
    onRead(typedOf(data, units));
    return null;
  };
  const zeroed = async (on: Schemas["ZeroIn"]["on"]) => {
    const { error } = await server.zeroGauge({ on });
    return error === undefined ? "Zeroed." : reasonOf(error);
  };
  return (
    <>
      {zero !== null && <Button onPress={() => void tried(() => zeroed(zero))}>Zero the gauge so</Button>}
      <Button onPress={() => void tried(read)}>Read it off the bench</Button>
      {said !== null && <p role="status">{said}</p>}
    </>
  );
}
