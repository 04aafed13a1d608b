/** A hand cycle: what was read with pipe for links and a jack, laid over the prediction, and what would explain the rest. */

import { type SubmitEvent, useState } from "react";

import { type Schemas, server } from "../../api/client";
import type { Document } from "../../document/document";
import { LEAST, type Quantity, readQuantity, show } from "../../figures/readings";
import { taken } from "../../state/room";
import { scrubbed, toPose, useScrub } from "../../state/scrub";
import { useAsked } from "../../solve/asking";
import { Button, Choice, Entries, Trouble, Typed } from "../../ui/controls";
import { length, plain, type Units } from "../../units/tape";
import type { Shown } from "./Cycle";
import { pathOf } from "../../figures/plots";
import { scalesOf } from "../../figures/Curve";

type Reading = NonNullable<Document["hand"]>[number];
type Figure = Reading["figure"];

const FIGURES: Record<Figure, [words: string, quantity: Quantity]> = {
  pinion_change: ["Pinion turned, nose up", "angle"],
  caster_change: ["Caster turned, more", "angle"],
  axle_x: ["Axle moved forward", "length"],
  axle_y: ["Axle moved to the left", "length"],
  yaw: ["Axle turned in plan, to the left", "angle"],
};

const handOf = (document: Document): readonly Reading[] =>
  (document as { hand?: Reading[] | null }).hand ?? [];

export function HandCheck(shown: Shown) {
  const { document, units } = shown;
  const readings = handOf(document);
  const key = JSON.stringify(document);
  const asked = useAsked(
    readings.length > 0 ? key : null,
    (signal) => server.hand({ document, units }, signal),
    300,
  );
  const laid = asked.key === key ? (asked.data?.laid ?? []) : [];
  return (
    <>
      <p className="quiet">
        Cycle it by hand, pipe for links and the springs out: jack the axle to a height, read the gauge and
        the tape, and type it here, all from ride. Rated stands under the frame; never under a truck held by a
        jack.
      </p>
      <Add {...shown} />
      {readings.length > 0 && <Table {...{ document, units, readings, laid }} />}
      {asked.state === "failed" && readings.length > 0 && <Trouble role="alert">{asked.why}</Trouble>}
      {readings.length > 0 && <Overlays {...shown} readings={readings} />}
      {asked.data && laid.length > 0 && <Explained check={asked.data} {...{ units }} />}
    </>
  );
}

const withHand = (document: Document, hand: Reading[]): Document => ({
  ...document,
  hand: hand.length > 0 ? hand : null,
});

function Add({ document, units }: Shown) {
  const scrub = scrubbed(document, useScrub());
  const first: Figure = document.axle.end === "rear" ? "pinion_change" : "caster_change";
  const [figure, setFigure] = useState<Figure>(first);
  const [text, setText] = useState("");
  const [why, setWhy] = useState<string | null>(null);
  const [, quantity] = FIGURES[figure];
  const submit = async (event: SubmitEvent) => {
    event.preventDefault();
    const value = readQuantity(text, quantity, units);
    if (typeof value === "string") {
      setWhy(value);
      return;
    }
    const { travel, articulation } = scrub;
    const refused = await taken((now) =>
      withHand(now, [...handOf(now), { travel, articulation, figure, value }]),
    );
    setWhy(refused);
    if (refused === null) setText("");
  };
  const options = (Object.entries(FIGURES) as [Figure, [string, Quantity]][])
    .filter(([id]) => id !== (document.axle.end === "rear" ? "caster_change" : "pinion_change"))
    .map(([id, [words]]) => [id, words] as const);
  return (
    <Entries
      aria-label="Add a reading"
      onSubmit={(event) => void submit(event)}
      className="line"
      style={{ display: "flex", gap: 8, alignItems: "end", flexWrap: "wrap" }}
    >
      <span>
        At {length(scrub.travel, units)} of travel, {plain(scrub.articulation, 1)}° of twist (set by the
        scrubbers):
      </span>
      <Choice label="What was read" value={figure} options={options} onChange={setFigure} />
      <Typed words="Read, from ride" value={text} onChange={setText} />
      <Button type="submit" className="main" isDisabled={text.trim() === ""}>
        Add the reading
      </Button>
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </Entries>
  );
}

type Laid = Schemas["Laid"];

function Table(props: {
  document: Document;
  units: Units;
  readings: readonly Reading[];
  laid: readonly Laid[];
}) {
  const { units, readings, laid } = props;
  return (
    <table aria-label="Readings of the hand cycle">
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col">Travel</th>
          <th scope="col">Twist</th>
          <th scope="col">Read</th>
          <th scope="col">Predicted</th>
          <th scope="col">Apart</th>
          <td />
        </tr>
      </thead>
      <tbody>
        {readings.map((one, n) => (
          <OneReading key={n} {...{ one, n, units }} laid={laid[n]} />
        ))}
      </tbody>
    </table>
  );
}

/** A reading beside its prediction. */
function OneReading({
  one,
  n,
  units,
  laid,
}: {
  one: Reading;
  n: number;
  units: Units;
  laid: Laid | undefined;
}) {
  const [words, quantity] = FIGURES[one.figure];
  const predicted = laid?.predicted ?? null;
  const apart = predicted === null ? null : one.value - predicted;
  const go = () => toPose({ travel: one.travel, articulation: one.articulation });
  const leave = () =>
    void taken((now) =>
      withHand(
        now,
        handOf(now).filter((_, other) => other !== n),
      ),
    );
  return (
    <tr>
      <th scope="row">{words}</th>
      <td>{length(one.travel, units)}</td>
      <td>{plain(one.articulation, 1)}°</td>
      <td>{show(one.value, quantity, units)}</td>
      <td>{laid ? (predicted === null ? "not reached" : show(predicted, quantity, units)) : "…"}</td>
      <td style={laid?.parts ? { color: "var(--stop)", fontWeight: 600 } : {}}>
        {apart === null ? "" : `${show(apart, quantity, units)}${laid?.parts ? ", too far" : ""}`}
      </td>
      <td>
        <Button aria-label={`Go there, to reading ${n + 1}`} onPress={go}>
          Go there
        </Button>{" "}
        <Button aria-label={`Leave out reading ${n + 1}`} onPress={leave}>
          Leave out
        </Button>
      </td>
    </tr>
  );
}

const [WIDE, HIGH] = [460, 150];

/** Straight readings as dots over the predicted curve. */
function Overlays({ solved, units, readings }: Shown & { readings: readonly Reading[] }) {
  if (!solved) return null;
  const { heave, ride } = solved.answer;
  const along = heave.columns["travel"]!;
  const figures = [...new Set(readings.map((one) => one.figure))];
  return (
    <div style={{ display: "grid", gridTemplateColumns: "repeat(auto-fit, minmax(24rem, 1fr))", gap: 12 }}>
      {figures.map((figure) => {
        const [words, quantity] = FIGURES[figure];
        const start = figure === "axle_x" || figure === "axle_y" ? (ride.columns[figure]?.[0] ?? 0) : 0;
        const curve = (heave.columns[figure] ?? []).map((v) => (v === null ? null : v - start));
        const dots = readings.filter((one) => one.figure === figure && Math.abs(one.articulation) < 0.05);
        if (dots.length === 0) return null;
        const { x, y } = scalesOf(
          along,
          [...curve, ...dots.map((one) => one.value)],
          LEAST[quantity],
          WIDE,
          HIGH,
        );
        return (
          <figure key={figure} style={{ margin: 0 }}>
            <figcaption>
              <strong>{words}</strong>{" "}
              <span className="quiet">line: predicted; dots: read; droop at the left</span>
            </figcaption>
            <svg
              viewBox={`0 0 ${WIDE} ${HIGH}`}
              role="img"
              aria-label={`${words}: ${dots.map((one) => `${show(one.value, quantity, units)} read at ${length(one.travel, units)}`).join(", ")}`}
              style={{ width: "100%", background: "var(--sheet)" }}
            >
              <path d={`M${x(0)} 0V${HIGH}`} stroke="var(--line)" strokeWidth={0.7} />
              <path d={pathOf(along, curve, x, y)} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
              {dots.map((one, n) => (
                <circle key={n} cx={x(one.travel)} cy={y(one.value)} r={5} fill="var(--accent)" />
              ))}
            </svg>
          </figure>
        );
      })}
    </div>
  );
}

function Explained({ check }: { check: Schemas["HandCheck"] }) {
  if (!check.laid.some((one) => one.parts)) return <p role="status">{check.says}</p>;
  return (
    <section aria-label="What would explain it">
      <h2>What would explain it, the likeliest first</h2>
      <p>{check.says}</p>
      {check.explained.length > 0 && (
        <ol>
          {check.explained.map((one) => (
            <li key={one.words}>
              {one.words.charAt(0).toUpperCase() + one.words.slice(1)}: leaves {plain(100 * one.left, 0)} % of
              what is unexplained.
            </li>
          ))}
        </ol>
      )}
      <p className="quiet">
        One slip at a time, or two where the readings can tell. Measure again before anything is moved.
      </p>
    </section>
  );
}
