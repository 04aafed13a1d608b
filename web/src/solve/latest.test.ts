import { describe, expect, it } from "vitest";

import { later, latest } from "./latest";

function slow() {
  const begun: number[] = [];
  const asks = latest<number>(async (question) => {
    begun.push(question);
    await later(2);
  });
  return { begun, asks };
}

describe("asking", () => {
  it("has one question under way, and of those that wait only the newest", async () => {
    const { begun, asks } = slow();
    for (const question of [1, 2, 3, 4]) asks.put(question);
    await asks.idle();
    expect(begun).toEqual([1, 4]);
  });

  it("goes on with what is put later", async () => {
    const { begun, asks } = slow();
    asks.put(1);
    await asks.idle();
    asks.put(2);
    await asks.idle();
    expect(begun).toEqual([1, 2]);
  });

  it("drops what waits, and asks again only where nothing newer waits", async () => {
    const { begun, asks } = slow();
    asks.put(1);
    asks.put(2);
    asks.drop();
    await asks.idle();
    expect(begun).toEqual([1]);
    asks.put(3);
    asks.put(5);
    asks.again(4);
    await asks.idle();
    expect(begun).toEqual([1, 3, 5]);
  });
});
