import { afterEach, expect, it, vi } from "vitest";

import { type Answer, NO_SERVER } from "../api/client";
import { clear, pause, said, settle, shown } from "../testing/screen";
import { useAsked, useFollowed } from "./asking";

const CALM_MS = 5;

function Asker({ of, ask }: { of: string; ask: (signal: AbortSignal) => Promise<Answer<string>> }) {
  const asked = useAsked(of, ask, CALM_MS);
  return <p>{`${asked.state} ${asked.key} ${asked.data ?? asked.why}`}</p>;
}

afterEach(() => {
  clear();
  vi.unstubAllGlobals();
});

it("gives up what nobody waits for any more, and shows what was asked last", async () => {
  const given: [string, AbortSignal][] = [];
  const asks = (of: string) => (
    <Asker
      of={of}
      ask={async (signal) => {
        given.push([of, signal]);
        await pause(of === "first" ? 60 : 1);
        return { data: `answer to ${of}`, status: 200 };
      }}
    />
  );
  const { again, leave } = await shown(asks("first"));
  await settle();
  await again(asks("second"));
  await settle();
  expect(given.map(([of, signal]) => [of, signal.aborted])).toEqual([
    ["first", true],
    ["second", false],
  ]);
  expect(said()).toBe("answered second answer to second");
  leave();
  expect(given[1]![1].aborted).toBe(true);
});

it("says why nothing came", async () => {
  await shown(<Asker of="this" ask={() => Promise.reject(new TypeError("no server"))} />);
  await settle();
  expect(said()).toBe(`failed this ${NO_SERVER}`);
});

function Follower({ of, ask }: { of: string; ask: () => Promise<Answer<string>> }) {
  const asked = useFollowed(of, ask);
  return <p>{`${asked.state} ${asked.key} ${asked.data ?? asked.why}`}</p>;
}

it("shows each answer as it comes while a hand goes on, and asks the newest next", async () => {
  const given: string[] = [];
  const waits: (() => void)[] = [];
  const asks = (of: string) => (
    <Follower
      of={of}
      ask={() => {
        given.push(of);
        return new Promise((done) => waits.push(() => done({ data: `answer to ${of}`, status: 200 })));
      }}
    />
  );
  const { again, leave } = await shown(asks("first"));
  await again(asks("second"));
  await again(asks("third"));
  expect(given).toEqual(["first"]);
  waits[0]!();
  await settle();
  expect(said()).toBe("answered first answer to first");
  expect(given).toEqual(["first", "third"]);
  waits[1]!();
  await settle();
  expect(said()).toBe("answered third answer to third");
  leave();
});

it("asks what a hand left off at once more until the server is back", async () => {
  let there = false;
  const ask = () =>
    there ? Promise.resolve({ data: "back", status: 200 }) : Promise.reject(new TypeError("no server"));
  await shown(<Follower of="this" ask={ask} />);
  await settle();
  expect(said()).toBe(`failed this ${NO_SERVER}`);
  there = true;
  await settle();
  await vi.waitFor(() => expect(said()).toBe("answered this back"), 5000);
});
