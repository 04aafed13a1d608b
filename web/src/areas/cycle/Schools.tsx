/** Schools side by side: this axle by each, their curves laid over each other, and what they come to in words. */

import { useState } from "react";

import { type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { scalesOf } from "../../figures/Curve";
import { LEAST, type Quantity, show } from "../../figures/readings";
import { dropPreview, preview, takePreview } from "../../state/behind";
import { useAsked } from "../../solve/asking";
import { Button, Trouble } from "../../ui/controls";
import type { Units } from "../../units/tape";
import type { Shown } from "./Cycle";
import { pathOf } from "../../figures/plots";

type Variant = Schemas["Variant"];

/** Dashes tell them apart as well as shades do. */
const DASHES = ["", "9 4", "3 3", "12 3 3 3", "1 4", "6 2 1 2"];

const PLOTS: readonly (readonly [key: string, rear: string, front: string, quantity: Quantity])[] = [
  ["turn", "Pinion, nose up", "Caster, more", "angle"],
  ["anti", "Anti-squat", "Anti-dive", "percent"],
  ["fore_aft", "Axle forward", "Axle forward", "length"],
  ["sideways", "Axle to the left", "Axle to the left", "length"],
];

export function Schools({ document, units }: Shown) {
  const key = JSON.stringify([document, units]);
  const asked = useAsked(key, (signal) => server.schools({ document, units }, signal), 300);
  const [shown, setShown] = useState<string | null>(null);
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  if (!asked.data) return <p role="status">Making each school’s version…</p>;
  const [own, ...others] = asked.data;
  if (!own) return <p>Nothing holds the axle, so no school can be tried on it.</p>;
  const rear = document.axle.end === "rear";
  return (
    <div data-stale={asked.key !== key} style={{ display: "grid", gap: 12 }}>
      <p className="quiet">
        The same axle brackets, tires and travel; what each school would move is moved, and nothing else. The
        curves decide: none of them is wrong.
      </p>
      <div style={{ display: "grid", gridTemplateColumns: "repeat(auto-fit, minmax(26rem, 1fr))", gap: 12 }}>
        {PLOTS.map(([plot, words, front, quantity]) => (
          <Overlay key={plot} {...{ plot, quantity, units }} name={rear ? words : front} all={asked.data!} />
        ))}
      </div>
      <ul style={{ listStyle: "none", margin: 0, padding: 0, display: "grid", gap: 8 }} aria-label="Schools">
        {others.map((one, n) => (
          <li key={one.id} className="line">
            <Key dash={DASHES[n + 1] ?? ""} />
            <strong>{one.name}.</strong> <span>{one.made}</span> <span>{one.says}</span>
            <Offer {...{ one, shown, setShown }} />
          </li>
        ))}
      </ul>
      {others.length === 0 && <p>This layout has nothing that a school would do otherwise.</p>}
    </div>
  );
}

function Offer(props: { one: Variant; shown: string | null; setShown: (id: string | null) => void }) {
  const { one, shown, setShown } = props;
  const done = (act: () => void) => () => {
    act();
    setShown(null);
  };
  if (shown === one.id)
    return (
      <>
        <Button className="main" onPress={done(takePreview)}>
          Take it
        </Button>
        <Button onPress={done(dropPreview)}>Drop it</Button>
      </>
    );
  return (
    <Button
      onPress={() => {
        preview(one.name, one.document as Document);
        setShown(one.id);
      }}
    >
      Look at it
    </Button>
  );
}

const Key = ({ dash }: { dash: string }) => (
  <svg width={44} height={12} aria-hidden="true">
    <path d="M2 6H42" stroke="var(--ink)" strokeWidth={2} strokeDasharray={dash} />
  </svg>
);

const [WIDE, HIGH] = [440, 150];

function Overlay(props: { plot: string; name: string; quantity: Quantity; units: Units; all: Variant[] }) {
  const { plot, name, quantity, units, all } = props;
  const values = all.flatMap((one) => one.curves[plot] ?? []);
  const known = values.filter((v): v is number => v !== null);
  const along = all[0]!.curves["travel"]!;
  if (known.length === 0) return null;
  const { x, y } = scalesOf(along, values, LEAST[quantity], WIDE, HIGH);
  const say = (v: number) => show(v, quantity, units);
  const range = `${say(Math.min(...known))} to ${say(Math.max(...known))}`;
  return (
    <figure style={{ margin: 0 }}>
      <figcaption>
        <strong>{name}</strong> <span className="quiet">{range}, droop at the left</span>
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        role="img"
        aria-label={`${name} by each school: ${range}`}
        style={{ width: "100%", background: "var(--sheet)" }}
      >
        <path d={`M${x(0)} 0V${HIGH}`} stroke="var(--line)" strokeWidth={0.7} />
        {all.map((one, n) => (
          <path
            key={one.id}
            d={pathOf(one.curves["travel"]!, one.curves[plot] ?? [], x, y)}
            fill="none"
            stroke={n === 0 ? "var(--accent)" : "var(--ink)"}
            strokeWidth={n === 0 ? 3 : 1.6}
            strokeDasharray={DASHES[n] ?? ""}
          />
        ))}
      </svg>
    </figure>
  );
}
