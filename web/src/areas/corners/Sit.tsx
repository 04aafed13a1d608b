/** How it sits: with each load, on which springs, at which pressure; what a turn or a spacer does. */

import { shocksOf, stopsOf } from "../../document/corners";
import { type Document, isRightOfPair, words } from "../../document/document";
import { capital } from "../../document/parts";
import type { Solved } from "../../state/solver";
import { edited } from "../../state/room";
import { Button, Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { rateFigure, rateUnit, showForce, showPressure, showRate } from "../../units/forces";
import { length, lengthFigure, plain, type Units, unitSign } from "../../units/tape";
import { type CornersAnswer, useCorners } from "./asked";

interface Of {
  document: Document;
  units: Units;
  solved: Solved | null;
}

export function Sit({ document, units, solved }: Of) {
  const { key, asked } = useCorners(document, units);
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  if (!asked.data) return <p role="status">Setting it on its weight…</p>;
  const shown = { document, units, answer: asked.data };
  const sprung = asked.data.sits.length > 0 && asked.data.sits[0]!.travel !== null;
  return (
    <section aria-label="How it sits" data-stale={asked.key !== key} aria-busy={asked.key !== key}>
      {!sprung && (
        <p>
          No spring carries this axle within the travel that is asked for. Give it springs under Parts, or
          look at its weights under Truck.
        </p>
      )}
      {asked.data.sits.length > 0 && <Loads {...shown} />}
      <Turns {...shown} />
      <Springs {...shown} />
      <Air {...shown} />
      <Filled {...shown} />
      {stopsOf(document).map(({ id }) => (
        <Spacers key={id} {...shown} stop={id} solved={solved} />
      ))}
      {asked.data.bar_rate !== null && asked.data.bar_rate !== undefined && (
        <p>
          Anti-roll bar: {showRate(asked.data.bar_rate, units)} at each wheel, for what one wheel stands over
          the other; steel, its arms taken as stiff.
        </p>
      )}
      <p className="quiet">
        An estimate from the weights entered. Coils, air springs and gas shocks hold energy: release them only
        in the tools made for it, with the truck on rated stands.
      </p>
    </section>
  );
}

interface Shown {
  document: Document;
  units: Units;
  answer: CornersAnswer;
}

/** Less than a tape shows. */
const LEAST_MM = 0.8;

const overRide = (stands: number | null, units: Units): string =>
  stands === null ? "not carried" : Math.abs(stands) < LEAST_MM ? "at ride" : `${length(Math.abs(stands), units)} ${stands < 0 ? "low" : "high"}`; // prettier-ignore

/** The truck as it stands, and with every load that its weights know. */
function Loads({ document, units, answer }: Shown) {
  const settling = document.corners?.settling ?? null;
  const [own] = answer.sits;
  const sides = own?.corners.flatMap((one) => (one.alone === null ? [] : [one.alone])) ?? [];
  const apart = sides.length === 2 ? sides[1]! - sides[0]! : 0;
  return (
    <FigureSection
      title="How it sits"
      head={["", "Sprung weight", "Stands", "Frequency"]}
      rows={answer.sits.map((one, n) => [
        n === 0 ? "As it stands" : one.name,
        showForce(one.weight, units),
        overRide(one.stands, units),
        one.frequency === null ? "" : `${plain(one.frequency, 2)} Hz`,
      ])}
    >
      <p className="quiet">
        {settling === null
          ? "Nobody has said how much it settles; that comes off these heights."
          : `${length(settling, units)} of settling is taken off.`}{" "}
        {Math.abs(apart) < 0.5
          ? "Left and right sit alike."
          : `The ${apart > 0 ? "left" : "right"} side’s springs carry their half ${length(Math.abs(apart), units)} higher.`}
      </p>
    </FigureSection>
  );
}

/** A name without its side. */
const bothWords = (name: string): string => words(name).replace(/ ?\b(left|right)\b/, "");

function Turns({ document, units, answer }: Shown) {
  return (
    <FigureSection
      title="One turn of the seats, tighter"
      head={["", "Raises it"]}
      rows={answer.turns.map((one) => [
        capital(words(one.shocks[0]!).replace(/ ?\b(left|right)\b/, one.shocks.length > 1 ? "" : "$&")),
        `${plain(one.by, 1)} mm${units === "mm" ? "" : ` (${length(one.by, units)})`}`,
      ])}
    >
      {answer.sliders
        .filter(({ shock }) => !isRightOfPair(document, shock))
        .map((one) => (
          <p key={one.shock} className="quiet">
            {bothWords(one.shock)}: the slider between its two springs stops{" "}
            {one.travel === null
              ? "nowhere in the travel"
              : `${length(Math.abs(one.travel), units)} ${one.travel > 0 ? "into bump" : "into droop"}`}
            .
          </p>
        ))}
    </FigureSection>
  );
}

const AGAINST: Record<string, string> = { loose: "too stiff: loose in droop", coils: "coils touch" };
const NEAREST = 7;

/** Steps of rates that carry it at ride, those that nothing speaks against first. */
function Springs({ document, units, answer }: Shown) {
  const shock = shocksOf(document).find((one) => one.spring);
  if (!shock?.spring || answer.springs.length === 0) return null;
  const has = shock.spring.rate;
  const near = [...answer.springs]
    .sort((a, b) => Math.abs(a.rate - has) - Math.abs(b.rate - has))
    .slice(0, NEAREST)
    .sort((a, b) => a.rate - b.rate);
  const take = (rate: number, preload: number) =>
    edited((now) => ({
      ...now,
      corners: now.corners && {
        ...now.corners,
        shocks: shocksOf(now).map((one) =>
          one.spring ? { ...one, spring: { ...one.spring, rate, preload: Math.round(preload * 2) / 2 } } : one,
        ),
      },
    })); // prettier-ignore
  return (
    <FigureSection
      title="Springs that carry it at ride"
      head={[rateUnit(units), "Preload", "Pressed", "Hz", "Free", "Inside", "To solid", ""]}
      rows={near.map((one) => [
        rateFigure(one.rate, units),
        lengthFigure(Math.max(one.preload, 0), units),
        lengthFigure(one.at_ride, units),
        plain(one.frequency, 2),
        lengthFigure(one.free_length, units),
        lengthFigure(one.inside, units),
        lengthFigure(one.to_solid, units),
        one.against.length > 0 ? (
          one.against.map((why) => AGAINST[why] ?? why).join(", ")
        ) : (
          <Button
            aria-label={`Take ${showRate(one.rate, units)}`}
            onPress={() => take(one.rate, one.preload)}
          >
            Take
          </Button>
        ),
      ])}
    >
      <p className="quiet">
        {unitSign(units) === "in" ? "Lengths in inches. " : "Lengths in millimeters. "}Every 25 lb/in, a
        generic step: ask for the maker’s own.{" "}
        {shock.spring.second
          ? "Each over the second spring that is there: preload and pressed are the stack’s."
          : "One spring in place of each."}{" "}
        To order one: at least that far to solid; the free length takes the seats{" "}
        {length(answer.seats, units)} less apart than the open shock is long, a guess until they are measured.
      </p>
      <Instead answer={answer} />
    </FigureSection>
  );
}

/** What would do where every rate of the steps hangs loose in droop; or that nothing does. */
function Instead({ answer }: Pick<Shown, "answer">) {
  const allLoose = answer.springs.every((one) => one.against.includes("loose"));
  if (!allLoose) return null;
  if (answer.instead.length === 0)
    return (
      <p>
        Every one of these hangs loose in droop, and neither a softer one, a second spring nor a strap keeps
        it seated here: move the shock’s eyes, or ask for less droop.
      </p>
    );
  return (
    <>
      <p>Every one of these hangs loose in droop. What would do:</p>
      <ul>
        {answer.instead.map((one) => (
          <li key={one.words}>
            {capital(one.words)}.{" "}
            <Button aria-label={`Take ${one.words}`} onPress={() => edited(() => one.document as Document)}>
              Take
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** The pressure for each height, as the springs are placed. */
function Filled({ units, answer }: Shown) {
  return (
    <FigureSection
      title="Pressure for each height"
      head={["Stands", "Pressure"]}
      rows={answer.filled.map((one) => [
        overRide(one.stands, units),
        one.pressure === null ? "none does" : showPressure(one.pressure, units),
      ])}
    />
  );
}

/** Aired out, at ride's pressure, aired up. */
function Air({ units, answer }: Shown) {
  return (
    <FigureSection
      title="Air springs by pressure"
      head={["", "Stands", "Tire under full bump"]}
      rows={answer.inflated.map((one) => [
        one.pressure === 0 ? "Aired out" : showPressure(one.pressure, units),
        one.stands === null
          ? one.pressure === 0
            ? "nothing stops it"
            : "past its droop"
          : overRide(one.stands, units),
        one.under_bump === null ? "" : length(one.under_bump, units),
      ])}
    />
  );
}

/** What each spacer does to the bump travel, and where it strikes its pad. */
function Spacers({ units, answer, stop, document, solved }: Shown & { stop: string; solved: Solved | null }) {
  const rows = answer.spacers[stop] ?? [];
  if (isRightOfPair(document, stop)) return null;
  const at = (travel: number | null) => (travel === null ? "past the travel" : length(travel, units));
  return (
    <FigureSection
      title={`Spacers: ${bothWords(stop).toLowerCase()}`}
      head={["", "Touches at", "Solid at"]}
      rows={rows.map((one) => [
        one.spacer === 0
          ? "As it is"
          : `${length(Math.abs(one.spacer), units)} ${one.spacer > 0 ? "more" : "less"}`,
        at(one.touches),
        at(one.solid),
      ])}
    >
      <p className="quiet">{padWords(solved, stop, units)}</p>
    </FigureSection>
  );
}

/** Where on its pad a stop strikes, fore-aft and sideways, while it touches in the straight travel. */
export function padWords(solved: Solved | null, stop: string, units: Units): string {
  const columns = solved?.answer.heave.columns ?? {};
  const gap = columns[`stop ${stop} to_touch`] ?? [];
  const struck = (name: string) =>
    (columns[`stop ${stop} ${name}`] ?? []).filter((v, n): v is number => v !== null && (gap[n] ?? 1) <= 0);
  const [fore, side] = [struck("aside_x"), struck("aside_y")];
  if (fore.length === 0) return "It does not touch its pad within the straight travel.";
  const least = Math.min(...fore);
  const most = Math.max(...fore);
  const reach = Math.max(...side.map(Math.abs));
  return `Its pad must reach from ${length(least, units)} to ${length(most, units)} ahead of it, and ${length(reach, units)} to the side, for where the axle swings to.`;
}
