/** Every combination of the holes that the racks have: as plates with a hole for each, shaded by a figure. */

import { useEffect, useState } from "react";
import { createPortal } from "react-dom";

import type { Schemas } from "../../api/client";
import { theRegister } from "../../api/register";
import { type Document, mountLabel, placed, spotsOf } from "../../document/document";
import { capital } from "../../document/parts";
import { nameOf, QUANTITIES, show, showChange } from "../../figures/readings";
import { dropPreview, preview, takePreview } from "../../state/behind";
import { useWork } from "../../state/work";
import { Button, Choice, Toggle, Trouble } from "../../ui/controls";
import { FigureSection } from "../../ui/tables";
import { length, type Units } from "../../units/tape";
import { HolePlate, SmallMap } from "./HolePlate";
import { NewHoles } from "./NewHoles";
import type { Shown } from "./Weigh";

export type HoleMap = Schemas["HoleMapOut"];
export type Site = Schemas["Site"];
type Combination = Schemas["Combination"];
type Nearer = Schemas["Nearer"];

/** What a map may be shaded by: figures with the links made to fit, and what the axle does with the links as they are. */
const SHADES = [
  ["anti_squat", "set"],
  ["ic_length", "set"],
  ["roll_center_height", "set"],
  ["roll_axis_angle", "set"],
  ["pinion_range", "set"],
  ["pinion_change", "kept"],
  ["axle_x", "kept"],
] as const;

export type Shade = (typeof SHADES)[number][0];

/** Columns of the cycle by the judged figure that reads them. */
const FIGURES: Record<string, string> = { roll_center_height: "roll_center", roll_axis_angle: "roll_axis" };

const columnOf = (id: string) => theRegister().columns.find((one) => one.id === id);

const titleOf = (shade: string): string =>
  shade === "pinion_range"
    ? "Pinion’s whole swing"
    : shade === "pinion_change"
      ? "Pinion, links as they are"
      : shade === "axle_x"
        ? "Axle ahead, links as they are"
        : capital(nameOf(FIGURES[shade] ?? shade));

export const unitOf = (shade: string) =>
  shade === "axle_x"
    ? "length"
    : shade.startsWith("pinion")
      ? "angle"
      : QUANTITIES[columnOf(shade)?.unit ?? "mm"];

export const valueOf = (one: Combination, shade: Shade): number | null => {
  const of = SHADES.find(([id]) => id === shade)![1];
  const value = one[of]?.[shade] as number | null | undefined;
  return value ?? null;
};

/** "lower link axle ends", of a site. */
export function siteWords(document: Document, site: Site): string {
  const spot = spotsOf(document).find((one) => one.name === site.mounts[0]);
  const words = spot ? mountLabel(spot) : (site.mounts[0] ?? "");
  return site.mounts.length > 1 ? words.replace(/ ?\b(left|right)\b/i, "").trim() : words;
}

/** The document with its mounts in those holes. */
export function inHoles(document: Document, sites: readonly Site[], at: readonly number[]): Document {
  const moves = sites.flatMap((site, n) => {
    const [x, y, z] = site.holes[at[n]!]!;
    return site.mounts.map((name) => [name, name === site.left ? [x, y, z] : [x, -y, z]] as const);
  });
  return placed(document, Object.fromEntries(moves));
}

export function Holes({ id, document, units, slot }: Shown) {
  const work = useWork<HoleMap>("hole_map", id);
  const of = JSON.stringify(document);
  const map = work.soFar?.result ?? null;
  const going = work.soFar?.state === "going" || work.soFar?.state === "waiting";
  const racked = (document.room?.zones ?? []).some((zone) => zone.region.kind === "holes");
  useEffect(() => dropPreview, []);
  return (
    <section aria-label="Holes" aria-busy={going}>
      {!racked && (
        <p className="quiet">
          No mount has a row of holes. Under Room, in Zones, choose a mount and say a row of holes for it:
          then every combination of them is worked out here.
        </p>
      )}
      <div className="line">
        <Button isDisabled={!racked} onPress={() => work.begin(of, { document })}>
          {map ? "Work them out anew" : "Work out every combination"}
        </Button>
        {going && <Button onPress={work.end}>Stop</Button>}
      </div>
      {going && <Going share={work.soFar!.share} />}
      {work.trouble && <Trouble role="alert">{work.trouble}</Trouble>}
      {map && work.of !== of && <p role="status">The design was changed since: these are of before.</p>}
      {map && map.combinations.length > 0 && <Mapped {...{ map, document, units, slot }} />}
    </section>
  );
}

export function Going({ share }: { share: number }) {
  return (
    <progress value={share} max={1} aria-label="Worked out so far" style={{ width: "100%" }}>
      {Math.round(100 * share)} %
    </progress>
  );
}

interface OfMap {
  map: HoleMap;
  document: Document;
  units: Units;
}

function Mapped({ map, document, units, slot }: OfMap & { slot: Shown["slot"] }) {
  const [shade, setShade] = useState<Shade>("anti_squat");
  const [across, setAcross] = useState(map.sites.length > 1 ? 1 : 0);
  const [up, setUp] = useState(0);
  const [own, setChosen] = useState<number | null>(null);
  const chosen = own ?? map.now;
  const base = chosen === null ? map.sites.map((site) => site.now ?? 0) : map.combinations[chosen]?.at;
  if (!base) return null;
  const names = map.sites.map((site) => siteWords(document, site));
  return (
    <>
      <div className="line">
        <Choice
          label="Shaded by"
          value={shade}
          options={SHADES.map(([one]) => [one, titleOf(one)] as const)}
          onChange={setShade}
        />
        {map.sites.length > 1 && (
          <>
            <SiteChoice label="Across" {...{ names }} value={across} but={up} onChange={setAcross} />
            <SiteChoice label="Up" {...{ names }} value={up} but={across} onChange={setUp} />
          </>
        )}
      </div>
      {slot &&
        createPortal(
          <HolePlate {...{ map, shade, across, up, units, base, chosen, names }} onChoose={setChosen} />,
          slot,
        )}
      {map.sites.map(
        (_, site) =>
          site !== across &&
          site !== up && (
            <Held
              key={site}
              {...{ map, site, base, shade, across, up }}
              name={names[site]!}
              onChoose={setChosen}
            />
          ),
      )}
      {chosen !== null && <Chosen key={chosen} {...{ map, document, units, chosen }} />}
      <Bite {...{ map, document, units }} onChoose={setChosen} />
      <NewHoles {...{ document, units }} sites={map.sites} />
      <Button onPress={() => window.print()}>Print this card</Button>
      <p className="quiet">
        An estimate from the figures entered. Hit marks come of a few poses: look at a combination, and at its
        gaps under Room, before the truck is driven on it.
      </p>
    </>
  );
}

function SiteChoice(props: {
  label: string;
  names: string[];
  value: number;
  /** The site of the other way. */
  but: number;
  onChange: (site: number) => void;
}) {
  const { label, names, value, but, onChange } = props;
  const options = names.map((name, n) => [String(n), name] as const).filter(([n]) => Number(n) !== but);
  return <Choice {...{ label, options }} value={String(value)} onChange={(n) => onChange(Number(n))} />;
}

/** A site that is on neither way of the plate: the hole it is in there, and the plate as each of its holes makes it. */
function Held(props: {
  map: HoleMap;
  site: number;
  base: readonly number[];
  name: string;
  shade: Shade;
  across: number;
  up: number;
  onChoose: (n: number) => void;
}) {
  const { map, site, base, name, shade, across, up, onChoose } = props;
  return (
    <div className="line" role="group" aria-label={`Hole of the ${name}`}>
      <span>{name}:</span>
      {map.sites[site]!.holes.map((_, hole) => {
        const there = map.combinations.findIndex((one) =>
          one.at.every((h, n) => h === (n === site ? hole : base[n])),
        );
        return (
          <Toggle
            key={hole}
            isSelected={base[site] === hole}
            isDisabled={there < 0}
            onChange={() => onChoose(there)}
          >
            {hole + 1}{" "}
            <SmallMap {...{ map, shade, across, up }} base={base.map((h, n) => (n === site ? hole : h))} />
          </Toggle>
        );
      })}
    </div>
  );
}

const SAID: readonly (readonly [Shade, "set" | "kept"])[] = SHADES;

/** One combination in figures: what it does, what speaks against it, how its links must be set. */
function Chosen({ map, document, units, chosen }: OfMap & { chosen: number }) {
  const [looked, setLooked] = useState(false);
  const one = map.combinations[chosen];
  const now = map.now === null ? undefined : map.combinations[map.now];
  if (!one) return null;
  const words = one.at
    .map((hole, n) => `${siteWords(document, map.sites[n]!)} in hole ${hole + 1}`)
    .join(", ");
  const against = map.against.find(({ combination }) => combination === chosen);
  const rows = SAID.map(([shade]) => [
    titleOf(shade),
    show(valueOf(one, shade), unitOf(shade), units),
    now ? show(valueOf(now, shade), unitOf(shade), units) : "",
  ]);
  return (
    <section aria-label="The combination looked at">
      <FigureSection title={words} head={["", "Here", "In use"]} rows={rows} />
      <Lengths {...{ one, now, units }} />
      {against && against.words.length > 0 && (
        <p>
          <strong>Against it:</strong> {against.words.join("; ")}.
        </p>
      )}
      {!against && <p className="quiet">What it hits is still to be looked at.</p>}
      {chosen !== map.now && (
        <div className="line">
          {looked ? (
            <>
              <Button className="main" onPress={takePreview}>
                Take it
              </Button>
              <Button
                onPress={() => {
                  dropPreview();
                  setLooked(false);
                }}
              >
                Drop it
              </Button>
            </>
          ) : (
            <Button
              onPress={() => {
                preview(words, inHoles(document, map.sites, one.at));
                setLooked(true);
              }}
            >
              Look at it
            </Button>
          )}
        </div>
      )}
    </section>
  );
}

const THREADS = [
  ["1.411111", "one 5/8-18 thread"],
  ["2.822222", "two 5/8-18 threads, left and right"],
  ["1.5875", "one 3/4-16 thread"],
  ["3.175", "two 3/4-16 threads, left and right"],
  ["3.628571", "two 7/8-14 threads, left and right"],
  ["4.233333", "two 1 1/4-12 threads, left and right"],
] as const;

/** How much longer each bar has to be set, and how many turns that is of the thread that the shop says. */
function Lengths({ one, now, units }: { one: Combination; now: Combination | undefined; units: Units }) {
  const [pitch, setPitch] = useState<string>(THREADS[3][0]);
  if (!now || one === now) return null;
  const rows = Object.entries(one.lengths).flatMap(([name, long]) => {
    const by = long - (now.lengths[name] ?? long);
    if (Math.abs(by) < 0.1) return [];
    const turns = `${Math.abs(by / Number(pitch)).toFixed(1)} ${by > 0 ? "out" : "in"}`;
    return [
      [name.replaceAll("-", " "), `${length(Math.abs(by), units)} ${by > 0 ? "longer" : "shorter"}`, turns],
    ];
  });
  if (rows.length === 0) return <p className="quiet">No link has to be set otherwise.</p>;
  return (
    <>
      <Choice label="A turn is of" value={pitch} options={THREADS} onChange={setPitch} />
      <FigureSection title="Links to be set anew" head={["", "By", "Turns"]} rows={rows} />
    </>
  );
}

/** More bite, less: the one change of hole for it. */
function Bite({ map, document, units, onChoose }: OfMap & { onChoose: (n: number) => void }) {
  const said = (one: Nearer): string => {
    const beside = (["ic_length", "roll_center_height", "pinion_range"] as const)
      .filter((id) => one.changed[id] !== undefined)
      .map((id) => `${titleOf(id).toLowerCase()} ${showChange(one.changed[id]!, unitOf(id), units)}`);
    return (
      `${siteWords(document, map.sites[one.site]!)} to hole ${one.hole + 1}: ` +
      `anti-squat ${showChange(one.changed["anti_squat"]!, "percent", units)}; ${beside.join(", ")}`
    );
  };
  if (map.now === null)
    return <p className="quiet">The mounts stand in none of their holes, so no change of hole is said.</p>;
  return (
    <section aria-label="One change of hole">
      {(
        [
          ["More bite", map.more],
          ["Less bite", map.less],
        ] as const
      ).map(([words, one]) => (
        <p key={words}>
          <strong>{words}:</strong>{" "}
          {one ? (
            <>
              {said(one)}.{" "}
              <Button onPress={() => onChoose(one.combination)}>Show {words.toLowerCase()}</Button>
            </>
          ) : (
            "no single hole brings it."
          )}
        </p>
      ))}
    </section>
  );
}
