/** The chosen shock, stop, strap or bar: its sizes typed, what carries it, what it is; its mirror image goes with it. */

import { theRegister } from "../../api/register";
import {
  barOf,
  type Found,
  type Shock,
  sortOf,
  type Stop,
  type Strut,
  strutOf,
  withBar,
  withStrut,
} from "../../document/corners";
import type { Document } from "../../document/document";
import { moved, pairOf, spotsOf, words } from "../../document/document";
import { useTaking } from "../../state/room";
import { Button, Choice, Trouble } from "../../ui/controls";
import type { Units } from "../../units/tape";
import { EditorBox } from "../../panels/EditorBox";
import { Sizes } from "../../panels/Sizes";
import { SpringOfShop } from "./SpringOfShop";
import { barFields, placeFields, strutFields } from "./fields";
import { SORTS } from "./sorts";

interface Of {
  document: Document;
  units: Units;
  part: string;
}

export function Editor({ document, units, part }: Of) {
  const { why, setWhy, take } = useTaking();
  const found = strutOf(document, part);
  const bar = barOf(document);
  return (
    <EditorBox>
      {found && (
        <>
          <Sizes
            of={part}
            fields={strutFields(found.strut, units)}
            part={found.strut}
            onWhy={setWhy}
            onTake={(strut) => take((now) => withStrut(now, found, (one) => sized(one, strut)))}
          />
          <SpringOfShop {...{ found, units, take }} />
          <Carried {...{ document, found, take }} />
          <Sizes
            of={part}
            label="Places"
            submit="Put it there"
            fields={placeFields(found.strut, units)}
            part={found.strut}
            onWhy={setWhy}
            onTake={(strut) => take((now) => withPlaces(now, strut))}
          />
          <div className="row">
            <Button onPress={() => void take((now) => withStrut(now, found, null))}>
              Leave it out, and its mirror image
            </Button>
          </div>
        </>
      )}
      {!found && bar && (
        <>
          <Sizes
            of={part}
            fields={barFields(bar, units)}
            part={bar}
            onWhy={setWhy}
            onTake={(next) => take((now) => withBar(now, next))}
          />
          <div className="row">
            <Button onPress={() => void take((now) => withBar(now, null))}>Leave it out</Button>
          </div>
        </>
      )}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  );
}

/** Both its points where they were typed, the mirror image's with them, as a hand would move them. */
export function withPlaces(document: Document, strut: Strut): Document {
  const ends = [
    [`${strut.id}.frame`, strut.frame.at],
    [`${strut.id}.axle`, strut.axle.at],
  ] as const;
  return ends.reduce((now, [name, at]) => {
    const spot = spotsOf(now).find((one) => one.name === name);
    return spot ? moved(now, spot, at) : now;
  }, document);
}

/** One with another's sizes: its name and its points stay its own. */
const sized = (one: Strut, sizes: Strut): Strut => ({
  ...sizes,
  id: one.id,
  frame: one.frame,
  axle: one.axle,
});

const STOP_KINDS = [
  ["rubber", "Rubber"],
  ["long_travel", "Long travel"],
  ["hydraulic", "Hydraulic"],
] as const;

interface Choosing {
  document: Document;
  found: Found;
  take: (change: (document: Document) => Document) => Promise<boolean>;
}

/** On the axle or on which link its lower point is; what sort it is; what its eyes are. */
function Carried({ document, found, take }: Choosing) {
  const { strut } = found;
  const on = (id: string) => {
    void take((now) =>
      withStrut(now, found, (one) => {
        const carrier = one.id === found.strut.id ? id : (pairOf(now, id) ?? id);
        return { ...one, axle: { ...one.axle, on: carrier } };
      }),
    );
  };
  return (
    <div className="row">
      <Choice
        label="Lower point on"
        value={strut.axle.on}
        options={[["axle", "On the axle"], ...document.links.map(({ id }) => [id, `On the ${words(id).toLowerCase()}`] as const)]} // prettier-ignore
        onChange={on}
      />
      {found.listed === "stops" && (
        <Choice
          label="Kind"
          value={(strut as Stop).kind ?? null}
          options={STOP_KINDS}
          onChange={(kind) => void take((now) => withStrut(now, found, (one) => ({ ...one, kind }) as Strut))}
        />
      )}
      {found.listed === "shocks" && <Sort {...{ document, found, take }} />}
      {found.listed === "shocks" && <Eyes {...{ document, found, take }} />}
    </div>
  );
}

const SECOND = { rate: 40, slide: 60 };

/** What the shock is: another sort brings the spring or the gas that it needs. */
function Sort({ found, take }: Choosing) {
  const shock = found.strut as Shock;
  const stroke = shock.extended - shock.compressed;
  const become = (kind: ReturnType<typeof sortOf>) => {
    const spring = shock.spring ?? { rate: 40, preload: 20, solid: stroke + 40 };
    const air = shock.air ?? { pressure: 400, area: [[shock.extended, 2000]], volume: 300_000 };
    const coil = kind === "coilover" || kind === "coil";
    const gas = kind === "air" || kind === "air_shock";
    void take((now) =>
      withStrut(
        now,
        found,
        (one) => ({ ...one, kind, spring: coil ? spring : null, air: gas ? air : null }) as Strut,
      ),
    );
  };
  const second = shock.spring?.second ?? null;
  return (
    <>
      <Choice
        label="It is a"
        value={sortOf(shock)}
        options={Object.entries(SORTS) as [ReturnType<typeof sortOf>, string][]}
        onChange={become}
      />
      {shock.spring && (
        <Button
          onPress={() =>
            void take((now) =>
              withStrut(now, found, (one) => {
                const { spring } = one as Shock;
                return { ...one, spring: { ...spring, second: second ? null : SECOND } } as Strut;
              }),
            )
          }
        >
          {second ? "One spring" : "Stack a second spring"}
        </Button>
      )}
    </>
  );
}

/** What both its eyes are, of the joint catalog. */
function Eyes({ document, found, take }: Choosing) {
  const shock = found.strut as Shock;
  const own = Object.entries(document.joints ?? {}).map(
    ([id, kind]) => [id, kind.name || words(id)] as const,
  );
  const known = theRegister().joints.map((joint) => [joint.id, joint.name] as const);
  return (
    <Choice
      label="Eyes"
      placeholder="Eyes not said"
      value={shock.frame.joint ?? null}
      options={[...known, ...own]}
      onChange={(joint) =>
        void take((now) =>
          withStrut(now, found, (one) => ({
            ...one,
            frame: { ...one.frame, joint },
            axle: { ...one.axle, joint },
          })),
        )
      }
    />
  );
}
