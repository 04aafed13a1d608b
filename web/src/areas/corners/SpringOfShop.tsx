/** A spring that the shop keeps, put on a coilover or a coil and its mirror image. */

import { type Found, isShock, type Shock, withStrut } from "../../document/corners";
import type { Document } from "../../document/document";
import { type ShopSpring, useCatalog } from "../../state/catalog";
import { Choice } from "../../ui/controls";
import { showRate } from "../../units/forces";
import { length, type Units } from "../../units/tape";

interface Of {
  found: Found;
  units: Units;
  take: (change: (document: Document) => Document) => Promise<boolean>;
}

export function SpringOfShop({ found, units, take }: Of) {
  const springs = useCatalog((s) => s.shop?.springs ?? NONE);
  if (springs.length === 0 || !isShock(found.strut) || !found.strut.spring) return null;
  const put = (spring: ShopSpring) =>
    void take((now) => withStrut(now, found, (one) => sprung(one as Shock, spring)));
  return (
    <Choice
      label="A spring of the shop’s catalog"
      value={null}
      options={springs.map((one, n) => [`${n}`, springSaid(one, units)] as const)}
      onChange={(n) => put(springs[Number(n)]!)}
    />
  );
}

const NONE: ShopSpring[] = [];

/** The shock with another main spring; its preload stays, and what is stacked on it. */
export const sprung = (shock: Shock, { rate, solid, diameter }: ShopSpring): Shock => ({
  ...shock,
  diameter,
  spring: { ...shock.spring!, rate, solid },
});

const springSaid = ({ rate, solid, diameter }: ShopSpring, units: Units): string =>
  `${showRate(rate, units)}, solid after ${length(solid, units)}, ${length(diameter, units)} wide`;
