/** Where mounts may stand: zones listed, drawn about a mount, and the places that exist ranked. */

import { useEffect, useState } from "react";

import { type Schemas, server } from "../../api/client";
import { type Document, mountLabel, placed, type Spot, spotsOf } from "../../document/document";
import { mountsOf, zonedAbout, zonesOf } from "../../document/room";
import type { Region } from "../../document/solids";

import { dropPreview, preview, takePreview } from "../../state/behind";
import { edited, useRoom } from "../../state/room";
import { useSelection } from "../../state/selection";
import { useAsked } from "../../solve/asking";
import { Button, Choice, List, Trouble } from "../../ui/controls";
import { increment, length, type Units } from "../../units/tape";

const ABOUT_MM = 100;
const HOLE_MM = 25.4;
const HOLES = 5;

/** A first zone about a mount, to be dragged to what there is. */
export const STARTS = {
  box: (at: Spot["at"]): Region => ({
    kind: "box", center: [at[0], at[1], at[2]], size: [ABOUT_MM, ABOUT_MM, ABOUT_MM], turn: [0, 0, 0],
  }),
  upright: (at: Spot["at"]): Region => ({
    kind: "holes",
    at: Array.from({ length: HOLES }, (_, n) => [at[0], at[1], at[2] + (n - (HOLES - 1) / 2) * HOLE_MM]),
  }),
  along: (at: Spot["at"]): Region => ({
    kind: "holes",
    at: Array.from({ length: HOLES }, (_, n) => [at[0] + (n - (HOLES - 1) / 2) * HOLE_MM, at[1], at[2]]),
  }),
}; // prettier-ignore

const KINDS = [
  ["box", "A box about it"],
  ["upright", "A row of holes, upright"],
  ["along", "A row of holes, fore-aft"],
] as const;

export function Zones({ document, units }: { document: Document; units: Units }) {
  const { chosen, choose } = useRoom();
  const picked = useSelection((s) => s.chosen[0]);
  const mount = spotsOf(document).find((spot) => spot.key === picked && spot.holds);
  const zones = zonesOf(document);
  return (
    <section aria-label="Mount zones">
      {zones.length === 0 && (
        <p className="quiet">
          No zone is said yet, so mounts may go anywhere that a bracket can be built. Choose a mount, and say
          what room there is about it: cures, pulls and settling then stay inside.
        </p>
      )}
      <List aria-label="Zones">
        {zones.map((zone) => (
          <li key={zone.id}>
            <button
              type="button"
              className="row wide"
              aria-pressed={chosen?.list === "zones" && chosen.id === zone.id}
              onClick={() => choose({ list: "zones", id: zone.id })}
            >
              <span>{zone.name || zone.id}</span>
              <span className="quiet">
                {zone.region.kind === "holes" ? `${zone.region.at.length} holes` : "region"}, for{" "}
                {mountsOf(zone)
                  .map((name) => saidMount(document, name))
                  .join(", ") || "no mount"}
              </span>
            </button>
          </li>
        ))}
      </List>
      <div className="line">
        <Choice
          label="Mount to say a zone for"
          placeholder="Choose a mount"
          value={mount?.key ?? null}
          options={spotsOf(document)
            .filter((spot) => spot.holds)
            .map((spot) => [spot.key, mountLabel(spot)] as const)}
          onChange={(key) => useSelection.getState().choose(key)}
        />
        {mount && (
          <Choice
            label="Say a zone for it"
            value={null}
            options={KINDS}
            onChange={(kind) => {
              edited((now) => zonedAbout(now, mount.name, STARTS[kind](mount.at), mountLabel(mount)));
            }}
          />
        )}
      </div>
      {mount && zones.some((zone) => mountsOf(zone).includes(mount.name)) && (
        <Places key={mount.name} {...{ document, mount, units }} />
      )}
    </section>
  );
}

const saidMount = (document: Document, name: string): string => {
  const spot = spotsOf(document).find((one) => one.name === name);
  return spot ? mountLabel(spot).toLowerCase() : `${name}, which is not there`;
};

type Ranked = Schemas["Ranked"];

/** "1 fix, 2 to consider: rear steer, link swing". */
export function asksFor({ stops, fixes, considers, findings }: Ranked): string {
  const counted = [
    [stops, stops === 1 ? "stop" : "stops"],
    [fixes, fixes === 1 ? "fix" : "fixes"],
    [considers, "to consider"],
  ] as const;
  const said = counted.filter(([count]) => count > 0).map(([count, words]) => `${count} ${words}`);
  return said.length === 0 ? "nothing asked for" : `${said.join(", ")}: ${findings.join(", ")}`; // prettier-ignore
}

/** The places that exist for a mount, the soundest first. */
function Places({ document, mount, units }: { document: Document; mount: Spot; units: Units }) {
  const [wanted, setWanted] = useState(false);
  const [shown, setShown] = useState<number | null>(null);
  const key = wanted ? JSON.stringify([document, mount.name, units]) : null;
  const asked = useAsked(key, (signal) =>
    server.places({ document, mount: mount.name, increment: increment(units, "shop") }, signal),
  );
  useEffect(() => dropPreview, []);
  if (!wanted) return <Button onPress={() => setWanted(true)}>Rank the places there are</Button>;
  if (asked.state === "failed") return <Trouble role="alert">{asked.why}</Trouble>;
  if (!asked.data || asked.key !== key) return <p role="status">Trying every place…</p>;
  if (asked.data.length === 0)
    return (
      <p>
        None of its places can be built so that nothing meets that does not meet now: the zone, the tires and
        keep-outs leave no place. Widen the zone, or move what stands in the way.
      </p>
    );
  return (
    <List aria-label="Places, the soundest first">
      {asked.data.map((one, n) => (
        <li key={JSON.stringify(one.at)}>
          <div className="place">
            <span>
              {one.far < 0.01 ? "Where it stands" : placeWords(one, mount, units)}:{" "}
              <span className="quiet">{asksFor(one)}</span>
            </span>
            {one.far >= 0.01 &&
              (shown === n ? (
                <Button className="main" autoFocus onPress={takePreview}>
                  Take it
                </Button>
              ) : (
                <Button
                  onPress={() => {
                    preview(placeWords(one, mount, units), placed(document, one.at));
                    setShown(n);
                  }}
                >
                  Look at it
                </Button>
              ))}
          </div>
        </li>
      ))}
    </List>
  );
}

/** "1 in up, 2 in forward". */
function placeWords({ at }: Ranked, mount: Spot, units: Units): string {
  const there = at[mount.name]!;
  const ways = [["forward", "back"], mount.at[1] >= 0 ? ["outward", "inward"] : ["inward", "outward"], ["up", "down"]]; // prettier-ignore
  const moved = there.map((v, i) => v - mount.at[i]!);
  const said = moved.flatMap((by, i) =>
    Math.abs(by) < 0.01 ? [] : [`${length(Math.abs(by), units)} ${ways[i]![by > 0 ? 0 : 1]!}`],
  );
  return said.reverse().join(", ");
}
