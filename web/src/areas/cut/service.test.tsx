import { afterEach, describe, expect, it } from "vitest";

import truckFile from "../../../../server/builds/demo/fell-tender-truck.json";
import { recordOf } from "../../state/fitUp";
import { today } from "../../state/orders";
import { type TruckDocument, useTruck } from "../../state/truck";
import { writtenOut } from "../../state/written";
import { area, design, left, open } from "../../testing/cutting";
import { press, said, settle } from "../../testing/screen";
import { ok, refused } from "../../testing/server";
import { Service } from "./Service";

const QUOTE = {
  job: "C-3",
  refused: [] as { part: string; why: string }[],
  price: 84.2,
  currency: "USD",
  days: 7,
};
const truck = writtenOut({ ...truckFile, targets: {}, jobs: [], fit_up: null } as unknown as TruckDocument);

function there(answers: Parameters<typeof open>[0]) {
  useTruck.setState({
    truck: { build: 3, number: 1, document: truck } as never,
    edit: (next) => {
      useTruck.setState({ truck: { build: 3, number: 1, document: next } as never });
      return Promise.resolve(true);
    },
  });
  return open({ "GET /api/cutting": () => ok({ there: true }), ...answers });
}

const service = <Service id={7} document={design} units="mm" plates={4} />;
const orders = () => recordOf(useTruck.getState().truck!.document, design).orders;

afterEach(left);

describe("the cutting service", () => {
  it("is not shown where there is none", async () => {
    there({ "GET /api/cutting": () => ok({ there: false }) });
    await area(service);
    expect(said()).not.toContain("Cutting service");
  });

  it("says what it takes and for how much; what is ordered is waited for", async () => {
    there({
      "POST /api/designs/7/cutting": () => ok(QUOTE),
      "POST /api/cutting/order": () => ok({ job: "C-3", state: "ordered", due: "2027-02-03", note: "" }),
    });
    await area(service);
    await press("What does it take of revision 4?");
    await settle();
    expect(said()).toContain("It takes 4 plates: 84.20 USD, in 7 days.");
    await press("Order it");
    await settle();
    expect(said()).toContain("Ordered as job C-3, due Wed 3 Feb 2027.");
    expect(orders()).toMatchObject([
      { price: 84.2, due: "2027-02-03", job: "C-3", gate: "tacked", here: false },
    ]);
    expect(orders()[0]!.ordered).toBe(today());
    expect(orders()[0]!.what).toContain("revision 4");
  });

  it("names what it refuses, and orders the rest", async () => {
    const refuses = [{ part: "b1-2", why: "plate of 7 mm is not in stock" }];
    there({ "POST /api/designs/7/cutting": () => ok({ ...QUOTE, refused: refuses }) });
    await area(service);
    await press("What does it take of revision 4?");
    await settle();
    expect(said()).toContain("It takes 3 plates");
    expect(said()).toContain("b1-2: plate of 7 mm is not in stock.");
    expect(said()).toContain("Order the rest");
  });

  it("says when it does not answer, and that a second order is none", async () => {
    there({
      "POST /api/designs/7/cutting": () => ok(QUOTE),
      "POST /api/cutting/order": () => refused("The cutting service took too long over its answer."),
    });
    await area(service);
    await press("What does it take of revision 4?");
    await settle();
    await press("Order it");
    await settle();
    expect(said()).toContain("took too long over its answer. Ordering it again makes no second order.");
    expect(orders()).toMatchObject([{ job: "C-3", ordered: null, due: null }]);
    await press("Order it");
    await settle();
    expect(orders()).toHaveLength(1); // nor does it stand on the list twice
  });
});
