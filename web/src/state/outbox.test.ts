import "fake-indexeddb/auto";

import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { type Asked, ok, type Reply, serve } from "../testing/server";
import { keepInDatabase, type Operation } from "./keep";
import { ask, drop, forgetOutbox, look, onOutbox, put, startOutbox, takeUp, useOutbox } from "./outbox";

const EDIT = "POST /api/designs/7/revisions";
const edit = (name: string, base = 1) => ({
  queue: "design 7", kind: "design" as const, method: "POST" as const, url: "/api/designs/7/revisions",
  words: `an edit of ${name}`, base, body: { document: { name } }, from: { name: "before" },
}); // prettier-ignore
const idle = { ...edit("old"), order: 1, id: "older-operation", tab: "a tab that is closed", at: 1 };

const keep = keepInDatabase();
const empty = () => keep.change((all) => ({ drop: all.map((one) => one.order), result: null }));
const gone = () => vi.waitFor(async () => expect(await look()).toEqual([]), { timeout: 30_000 });

beforeEach(async () => {
  sessionStorage.clear();
  await empty();
  forgetOutbox(keep);
});
afterEach(() => vi.unstubAllGlobals());

/** A server that numbers what it stores, does what comes twice once, and may be away. */
function numbering() {
  let number = 1;
  let there = true;
  const done = new Map<string, Reply>();
  const stored: unknown[] = [];
  const heads: string[] = [];
  const asked = serve({
    [EDIT]: ({ base, document }) => {
      if (!there) return "no server";
      if (base !== number)
        return { status: 409, body: { message: "newer", newest: { number, document: {} } } };
      number += 1;
      stored.push(document);
      return { status: 201, body: { number, document } };
    },
  });
  const plain = fetch;
  vi.stubGlobal("fetch", async (url: string, request: RequestInit) => {
    const id = (request.headers as Record<string, string>)["X-Oak-Lever-Operation"]!;
    heads.push(id);
    const before = done.get(id);
    if (before && there) return new Response(JSON.stringify(before.body), { status: before.status });
    const answer = await plain(url, request);
    if (answer.ok) done.set(id, { status: answer.status, body: await answer.clone().json() });
    return answer;
  });
  return { asked, stored, heads, away: (now: boolean) => (there = !now) };
}

describe("what is changed", () => {
  it("is held in the browser's database until it is stored", async () => {
    const { stored, away } = numbering();
    away(true);
    expect(await ask(edit("one"))).toBe("held");
    expect((await keep.read()).map(({ words, tried }) => [words, tried])).toEqual([["an edit of one", true]]);
    expect(useOutbox.getState().why).toContain("does not answer");
    away(false);
    await gone();
    expect(stored).toEqual([{ name: "one" }]);
  });

  it("survives the page, and goes on by itself when one is opened", async () => {
    const { stored, away } = numbering();
    away(true);
    await ask(edit("one"));
    forgetOutbox(keep);
    away(false);
    await startOutbox();
    await gone();
    expect(stored).toEqual([{ name: "one" }]);
  });

  it("whose answer was lost comes again under its number, and is done once", async () => {
    const { stored, heads } = numbering();
    const whole = fetch;
    let lost = false;
    vi.stubGlobal("fetch", async (url: string, request: RequestInit) => {
      const answer = await whole(url, request);
      if (!lost) {
        lost = true;
        throw new TypeError("broke off");
      }
      return answer;
    });
    await put(edit("one"));
    await gone();
    expect(new Set(heads).size).toBe(1);
    expect(heads).toHaveLength(2);
    expect(stored).toEqual([{ name: "one" }]);
  });

  it("again before it was sent takes its place; once sent, the next stands on what it becomes", async () => {
    const { stored, away, asked } = numbering();
    away(true);
    await ask(edit("one"));
    await put(edit("two"), "last");
    await put(edit("three"), "last");
    expect((await look()).map((one) => one.words)).toEqual(["an edit of one", "an edit of three"]);
    away(false);
    await gone();
    expect(stored).toEqual([{ name: "one" }, { name: "three" }]);
    expect(asked.at(-1)!.body["base"]).toBe(2);
  });

  it("before the tab has heard of its last one is put on that, not against it", async () => {
    const { stored } = numbering();
    await ask(edit("one", 1));
    await put(edit("two", 1)); // made while this tab still thought that revision 1 stood
    await gone();
    expect(stored).toEqual([{ name: "one" }, { name: "two" }]);
  });

  it("is the asker's to decide about where it is refused, and blocks nothing else", async () => {
    const { stored } = numbering();
    const heard: string[] = [];
    const stop = onOutbox(({ what, operation }) => heard.push(`${what} ${operation.words}`));
    await put(edit("late", 9));
    await vi.waitFor(async () => expect((await look())[0]?.refused?.status).toBe(409));
    await put({ ...edit("other"), queue: "design 8", url: "/api/designs/7/revisions" });
    await vi.waitFor(() => expect(stored).toEqual([{ name: "other" }]));
    expect(heard).toContain("answered an edit of late");
    expect(await look()).toHaveLength(1);
    await drop({ queue: "design 7" });
    expect(await look()).toEqual([]);
    stop();
  });

  it("by a page that is closed is taken up by the next that opens the same", async () => {
    numbering().away(true);
    const left: Operation = {
      ...idle,
      tried: false,
      done: null,
      refused: { status: 409, error: { message: "newer" } },
    };
    await keep.change(() => ({ put: [left], result: null }));
    const mine = await takeUp("design 7");
    expect(mine.map((one) => one.id)).toEqual(["older-operation"]);
    expect((await keep.read())[0]!.tab).not.toBe("a tab that is closed");
  });

  it("that the server is too busy for comes again", async () => {
    let times = 0;
    const asked: Asked[] = serve({
      "POST /api/builds": () =>
        ++times === 1 ? { status: 503, body: { message: "hands full" } } : ok({ id: 3, number: 1 }),
    });
    await put({ queue: "builds", method: "POST", url: "/api/builds", words: "a build", body: { name: "x" } });
    await gone();
    expect(asked).toHaveLength(2);
  });
});
