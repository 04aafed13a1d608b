/** How exact each hole and length must be, and how trucks come out that are as exact as this shop's tape. */

import { useState } from "react";

import { figureOf } from "../../api/register";
import { type Document, mountLabel, spotsOf } from "../../document/document";
import { capital } from "../../document/parts";
import { nameOf, QUANTITIES, show } from "../../figures/readings";
import { Entries, Trouble, Typed } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { length, plain, readLength, type Units } from "../../units/tape";
import { type Outcomes, useError, useOutcomes } from "./rings";
import type { Shown } from "./Weigh";

const percent = (part: number): string => `${plain(100 * part, part > 0.99 && part < 1 ? 1 : 0)} %`;

export function Tolerance({ document, units }: Shown) {
  const { error, set } = useError();
  const [text, setText] = useState(length(error, units));
  const [why, setWhy] = useState<string | null>(null);
  const { key, asked } = useOutcomes(document, true);
  const typed = (value: string) => {
    setText(value);
    const mm = readLength(value, units);
    const sound = typeof mm === "number" && mm > 0;
    setWhy(sound ? null : typeof mm === "string" ? mm : "More than nothing.");
    if (sound) set(mm);
  };
  return (
    <section aria-label="How exact" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      <Entries onSubmit={(event) => event.preventDefault()}>
        <Typed words="This shop’s tape error, one sigma" value={text} onChange={typed} />
      </Entries>
      {why && <Trouble role="alert">{why}</Trouble>}
      {asked.state === "failed" && <Trouble role="alert">{asked.why}</Trouble>}
      {!asked.data && asked.state === "asking" && <p role="status">Building ten thousand trucks…</p>}
      {asked.data && <Said {...{ document, units }} found={asked.data} />}
    </section>
  );
}

const unitOf = (id: string) =>
  id === "axle_x" || id === "axle_y"
    ? "length"
    : id === "yaw" || id === "pinion_change"
      ? "angle"
      : QUANTITIES[figureOf(id)?.unit ?? "mm"];

const PLACES: Record<string, string> = {
  pinion_change: "Pinion, up or down",
  axle_x: "Axle fore-aft",
  axle_y: "Axle off center",
  yaw: "Axle out of square",
};

/** As finely as it takes to see it. */
const spreadOf = (value: number, id: string, units: Units): string => {
  const unit = unitOf(id);
  if (unit === "angle") return `${plain(value, 2)}°`;
  if (unit === "length" && units === "mm") return `${plain(value, 1)} mm`;
  return unit === "length" ? `${plain(value / 25.4, 3)} in` : show(value, unit, units);
};

function Said({ document, units, found }: { document: Document; units: Units; found: Outcomes }) {
  const weak = [...found.held].sort((a, b) => a.likely - b.likely).slice(0, 8);
  const apart = found.held.reduce((most, one) => (Math.abs(one.likely_few - one.likely_exact) > Math.abs(most.likely_few - most.likely_exact) ? one : most), found.held[0]!); // prettier-ignore
  return (
    <>
      <p>
        With every hole and length off by chance, all verdicts that hold now still hold in{" "}
        <strong>{percent(found.together)}</strong> of 10,000 trucks.
      </p>
      <FigureSection
        title="Verdicts most in doubt"
        head={["", "Now", "± one sigma", "Holds"]}
        rows={weak.map((one) => [
          capital(nameOf(one.figure)),
          show(one.value, unitOf(one.figure), units),
          spreadOf(one.spread, one.figure, units),
          percent(one.likely),
        ])}
      >
        <p className="quiet">
          By the slopes. 200 of them were worked out exactly beside it: the most that differs is{" "}
          {nameOf(apart.figure).toLowerCase()}, {percent(apart.likely_few)} by the slopes and{" "}
          {percent(apart.likely_exact)} worked out.
        </p>
      </FigureSection>
      <FigureSection
        title="Where the axle then stands"
        head={["", "± one sigma", "Adjusted", "Within", "Likely"]}
        rows={found.places.map((one) => [
          PLACES[one.figure] ?? capital(nameOf(one.figure)),
          spreadOf(one.spread, one.figure, units),
          spreadOf(one.adjusted, one.figure, units),
          one.within === null ? "" : spreadOf(one.within, one.figure, units),
          one.likely === null ? "" : percent(one.likely),
        ])}
      >
        <p className="quiet">
          Links as they were made. Adjusted: once every adjustable end has brought pinion, fore-aft, center
          and square back; what is left then no thread takes out. Within: house values.
        </p>
      </FigureSection>
      <Rings {...{ document, units, found }} />
    </>
  );
}

function Rings({ document, units, found }: { document: Document; units: Units; found: Outcomes }) {
  const names = new Map(spotsOf(document).map((spot) => [spot.name, mountLabel(spot)]));
  return (
    <FigureSection
      title="How far off each hole may be"
      head={["", "±", "Decided by"]}
      rows={[...found.rings]
        .sort((a, b) => a.by - b.by)
        .map((one) => [
          names.get(one.mount) ?? one.mount,
          spreadOf(one.by, "axle_x", units),
          PLACES[one.figure]?.toLowerCase() ?? (one.figure ? nameOf(one.figure).toLowerCase() : "none"),
        ])}
    >
      <p className="quiet">
        All of them off by that much as chance has it, one sigma, keeps the axle in its place and every
        verdict that holds now. Drawn as rings on the floor, fifty times their size.
      </p>
    </FigureSection>
  );
}
