/** Plays the cycle: droop to bump and back, then one wheel up and the other. */

import { memo, useEffect, useState } from "react";

import { useDesign } from "../state/design";
import { useScrub } from "../state/scrub";
import { Button } from "../ui/controls";

const SECONDS = 6;

/** Where the axle stands, from 0 to 1 of the way through: straight first, then twisted at ride. */
export function played(part: number, reach: { bump: number; droop: number; articulation: number }) {
  const swing = (p: number) => Math.sin(p * 2 * Math.PI);
  if (part < 0.5) {
    const s = swing(part * 2);
    return { travel: s > 0 ? s * reach.bump : s * reach.droop, articulation: 0 };
  }
  return { travel: 0, articulation: swing(part * 2 - 1) * reach.articulation };
}

/** For who wants no motion: the ends, one after the other, each for as long as it takes to read. */
const STOPS = [0.125, 0.25, 0.375, 0.5, 0.625, 0.75, 0.875];
const STAND_S = 1.4;

const calmly = () =>
  typeof matchMedia === "function" && matchMedia("(prefers-reduced-motion: reduce)").matches;

/** How much of the cycle is through after so many seconds. */
export function partAt(seconds: number, calm: boolean): number {
  if (!calm) return seconds / SECONDS;
  return STOPS[Math.floor(seconds / STAND_S)] ?? 1;
}

/** `along`: where the axle stands at each part of the way, within its reach. */
export const Play = memo(function Play({ words, along }: { words: string; along: typeof played }) {
  const [on, setOn] = useState(false);
  useEffect(() => {
    if (!on) return;
    const [start, calm] = [performance.now(), calmly()];
    let frame = requestAnimationFrame(function step(now) {
      const part = partAt((now - start) / 1000, calm);
      const document = useDesign.getState().document;
      if (part >= 1 || !document) {
        useScrub.setState({ travel: 0, articulation: 0 });
        setOn(false);
        return;
      }
      useScrub.setState(along(part, document.travel));
      frame = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(frame);
  }, [on, along]);
  return (
    <Button style={{ margin: "0 6px 8px", padding: "4px 2px" }} onPress={() => setOn(!on)}>
      {on ? "Stop" : words}
    </Button>
  );
});
