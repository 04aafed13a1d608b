import { afterEach, describe, expect, it } from "vitest";

import tender from "../../../../server/builds/demo/fell-tender-rear.json";
import truckFile from "../../../../server/builds/demo/fell-tender-truck.json";
import type { Document } from "../../document/document";
import { recordOf } from "../../state/fitUp";
import { daySaid, dayTyped, type Order, priceTyped, stateOf, today } from "../../state/orders";
import { type TruckDocument, useTruck } from "../../state/truck";
import { writtenOut } from "../../state/written";
import { clear, find, pick, press, said, settle, shown, submit, type } from "../../testing/screen";
import { ok, refused, serve } from "../../testing/server";
import { OrderEdited } from "./OrderEdited";
import { PaceOfShop } from "./PaceOfShop";
import { Waiting } from "./Waiting";

const design = tender as unknown as Document;
const bare = writtenOut({ ...truckFile, targets: {}, jobs: [], fit_up: null } as unknown as TruckDocument);
const SPRINGS: Order = {
  id: "o1", what: "Springs", count: 2, of: "", price: null, ordered: null, due: "2020-01-02", here: false, gate: "cycled",
  item: "", job: "C-1",
}; // prettier-ignore
const PLAN = {
  steps: [
    { gate: "tacked", name: "Tacked", hours: 8, guessed: true, waits_for: [], starts: "2026-03-09", ends: "2026-03-09" },
    { gate: "cycled", name: "Cycled", hours: 4, guessed: false, waits_for: ["Springs"], starts: null, ends: null },
  ],
  now: ["Tacked"],
  next: { what: ["Springs"], due: "2020-01-02", late: true, unlocks: ["Cycled"] },
  undated: ["Joints"],
  price: 120.5,
  unpriced: 1,
}; // prettier-ignore

let leave: (() => void) | null = null;
const stored = () => recordOf(useTruck.getState().truck!.document, design);
const truckWith = (orders: Order[]): TruckDocument =>
  writtenOut({ ...bare, fit_up: { ...bare.fit_up, rear: { ...bare.fit_up!["rear"]!, orders } } });

function open(truck: TruckDocument, answers: Parameters<typeof serve>[0] = {}) {
  useTruck.setState({
    truck: { build: 3, number: 1, document: truck } as never,
    edit: (next) => {
      useTruck.setState({ truck: { build: 3, number: 1, document: next } as never });
      return Promise.resolve(true);
    },
  });
  return serve({ "POST /api/plan": () => ok(PLAN), ...answers });
}

async function page(what: Parameters<typeof shown>[0]) {
  leave = (await shown(what)).leave;
  await settle();
}

afterEach(() => {
  leave?.();
  leave = null;
  clear();
  localStorage.clear();
  sessionStorage.clear();
});

const field = (name: string) =>
  [...document.querySelectorAll("label")]
    .find(({ textContent }) => textContent.trim() === name)!
    .querySelector("input")!;

describe("days and prices as they are typed", () => {
  it.each(["2026-13-01", "2026-02-30", "9 March", "2026-3-9"])("%s is no day", (text) => {
    expect(dayTyped(text)).toHaveProperty("why");
  });

  it("takes a day, and nothing for none", () => {
    expect(dayTyped(" 2028-02-29 ")).toBe("2028-02-29");
    expect(dayTyped("")).toBeNull();
    expect(daySaid("2026-03-09")).toBe("Mon 9 Mar 2026");
    expect(today(new Date(2026, 2, 9, 23, 59))).toBe("2026-03-09");
  });

  it("takes a price with or without its commas", () => {
    expect(priceTyped("1,250.50")).toBe(1250.5);
    expect(priceTyped("")).toBeNull();
    for (const text of ["-1", "much", "1,25", "1e9"]) expect(priceTyped(text)).toHaveProperty("why");
  });

  it("says where an order stands", () => {
    expect(stateOf({ ...SPRINGS, here: true }, "2026-03-09")).toBe("here");
    expect(stateOf(SPRINGS, "2026-03-09")).toBe("late: Thu 2 Jan 2020");
    expect(stateOf({ ...SPRINGS, due: null }, "2026-03-09")).toBe("not ordered");
    expect(stateOf({ ...SPRINGS, due: null, ordered: "2026-03-01" }, "2026-03-09")).toBe("no day said");
    expect(stateOf({ ...SPRINGS, due: "2026-03-10" }, "2026-03-09")).toBe("Tue 10 Mar 2026");
  });
});

describe("what is waited for", () => {
  it("says what can be done, what comes next, and the days", async () => {
    const truck = truckWith([SPRINGS]);
    open(truck);
    await page(<Waiting document={design} truck={truck} units="mm" />);
    expect(said()).toContain("Can be done now: Tacked. Cycled waits for: Springs.");
    expect(said()).toContain(
      "Next to come: Springs, late since Thu 2 Jan 2020. It lets these go on: Cycled.",
    );
    expect(said()).toContain("2 × Springs");
    expect(said()).toContain("8 guessed");
    expect(said()).toContain("No day is said for: Joints.");
  });

  it("puts a thing on the list, and says what is missing", async () => {
    open(bare);
    await page(<Waiting document={design} truck={bare} units="mm" />);
    await submit(find("form", "Wait for something more"));
    expect(said()).toContain("Say what is waited for.");
    await type(field("What is waited for"), "Rod ends");
    await submit(find("form", "Wait for something more"));
    expect(stored().orders.map(({ what, count, here }) => [what, count, here])).toEqual([
      ["Rod ends", 1, false],
    ]);
  });

  it("says why there is no plan", async () => {
    open(bare, { "POST /api/plan": () => refused("orders[0].due is no day") });
    await page(<Waiting document={design} truck={bare} units="mm" />);
    expect(said()).toContain("is no day");
  });

  it("changes an order, keeps what is wrong as it was typed, and takes it off", async () => {
    open(truckWith([SPRINGS]));
    await page(<OrderEdited document={design} order={SPRINGS} />);
    await type(field("Due on (2026-03-09)"), "soon");
    await submit(find("form", "Change Springs"));
    expect(said()).toContain("A day is year, month, day");
    expect(stored().orders[0]!.due).toBe("2020-01-02");
    await type(field("Due on (2026-03-09)"), "2027-01-04");
    await type(field("Price, all of it"), "310");
    await submit(find("form", "Change Springs"));
    expect(stored().orders[0]).toMatchObject({ due: "2027-01-04", price: 310, gate: "cycled", job: "C-1" });
    await press("It is here");
    expect(stored().orders[0]!.here).toBe(true);
    await pick("Which gate waits for it", "No step waits for it");
    expect(stored().orders[0]!.gate).toBeNull();
    await press("Take it off the list");
    expect(stored().orders).toEqual([]);
  });

  it("takes the day that the cutting service says, and says when it does not answer", async () => {
    let answer = ok({ job: "C-1", state: "cutting", due: "2027-02-03", note: "" });
    open(truckWith([SPRINGS]), { "POST /api/cutting/state": () => answer });
    await page(<OrderEdited document={design} order={SPRINGS} />);
    await press("How far is job C-1?");
    await settle();
    expect(said()).toContain("being cut, due Wed 3 Feb 2027");
    expect(stored().orders[0]!.due).toBe("2027-02-03");
    answer = refused("No cutting service is set.");
    await press("How far is job C-1?");
    await settle();
    expect(said()).toContain("No cutting service is set.");
  });
});

describe("the shop’s own pace", () => {
  it("takes hours, and refuses what are none", async () => {
    open(bare);
    await page(<PaceOfShop document={design} truck={bare} />);
    await type(field("Hours: Tacked"), "none");
    await submit(find("form", "The shop’s own pace"));
    expect(said()).toContain("Tacked: hours are more than nothing");
    await type(field("Hours: Tacked"), "12");
    await type(field("Hours on a working day"), "6.5");
    await submit(find("form", "The shop’s own pace"));
    expect(stored().pace).toEqual({ a_day: 6.5, off: ["sun"], gates: { tacked: 12 } });
  });

  it("keeps a day that is worked", async () => {
    const off = writtenOut({
      ...bare,
      fit_up: {
        rear: {
          ...bare.fit_up!["rear"]!,
          pace: { a_day: 8, gates: {}, off: ["mon", "tue", "wed", "thu", "fri", "sat"] },
        },
      },
    });
    open(off);
    await page(<PaceOfShop document={design} truck={off} />);
    await press("Sun");
    expect(said()).toContain("One day is worked.");
    expect(stored().pace!.off).toHaveLength(6);
  });
});
