import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { Document } from "../document/document";
import { finding, solvedTender, tender } from "../testing/solved";
import { useDesign } from "./design";
import { useSolver } from "./solver";
import { useScrub } from "./scrub";

interface Waiting {
  url: string;
  document: Document;
  reply: (status?: number) => void;
}
let waiting: Waiting[];
const asked = (job: string) => waiting.filter(({ url }) => url === `/api/${job}`);
const lets = (ms = 0) => new Promise((resolve) => setTimeout(resolve, ms));

/** The tender's answer, marked by the design it is for: at the scrubber, and as judged. */
function answerFor(document: Document, url: string) {
  const { answer } = solvedTender();
  const here = { ...answer.here, columns: { ...answer.here.columns, anti_squat: [document.axle.mass] } };
  if (url === "/api/clear") return { pairs: [], findings: [MEET] };
  if (url === "/api/look") return { links: answer.links, here, misalignment: {}, carried: answer.carried };
  return { ...answer, here, read: { marked: document.axle.mass } };
}

const MEET = finding("gap shaft tank", { severity: "stop" });
const edited = (mass: number): Document => ({ ...tender, axle: { ...tender.axle, mass } });
const shown = () => {
  const { answer, document } = useSolver.getState().solved!;
  return {
    here: answer.here.columns["anti_squat"]![0],
    judged: answer.read["marked"],
    of: document.axle.mass,
  };
};

beforeEach(async () => {
  waiting = [];
  vi.stubGlobal(
    "fetch",
    (url: string, request: { body: string }) =>
      new Promise((resolve) => {
        const { document } = JSON.parse(request.body) as { document: Document };
        const reply = (status = 200) =>
          resolve(new Response(JSON.stringify(status === 200 ? answerFor(document, url) : {}), { status }));
        waiting.push({ url, document, reply });
      }),
  );
  useScrub.setState({ travel: 0, articulation: 0 });
  useDesign.setState({ document: edited(1), draft: null, stored: null, past: [], future: [] });
  asked("cycle")[0]!.reply();
  await lets();
  expect(shown()).toEqual({ here: 1, judged: 1, of: 1 });
  waiting = [];
});
afterEach(async () => {
  useDesign.setState({ document: null, draft: null });
  for (const one of waiting) one.reply();
  await lets(5);
  vi.unstubAllGlobals();
});

describe("what comes too near", () => {
  const found = () => useSolver.getState().solved!.answer.findings.map(({ id }) => id);

  it("is asked for once the hand rests, stands among all that is found, and goes with its design", async () => {
    await vi.waitFor(() => expect(asked("clear")).toHaveLength(1));
    expect(found()).not.toContain(MEET.id);
    asked("clear")[0]!.reply();
    await vi.waitFor(() => expect(found()[0]).toBe(MEET.id));
    useDesign.setState({ document: edited(5) });
    asked("cycle")[0]!.reply();
    await vi.waitFor(() => expect(shown().of).toBe(5));
    expect(found()).not.toContain(MEET.id);
    await vi.waitFor(() => expect(asked("clear")).toHaveLength(2));
    expect(asked("clear")[1]!.document.axle.mass).toBe(5);
  });
});

describe("while a hand moves", () => {
  it("the pose is asked for and drawn first, what is judged follows when the hand rests", async () => {
    useDesign.setState({ draft: edited(2) });
    expect(waiting.map(({ url }) => url)).toEqual(["/api/look"]);
    waiting[0]!.reply();
    await lets();
    expect(shown()).toEqual({ here: 2, judged: 1, of: 2 });
    await lets(90);
    expect(asked("cycle").map(({ document }) => document.axle.mass)).toEqual([2]);
    asked("cycle")[0]!.reply();
    await lets();
    expect(shown()).toEqual({ here: 2, judged: 2, of: 2 });
  });

  it("what is judged follows at a pace even where it does not rest, and brings no older pose back", async () => {
    await lets(260);
    useDesign.setState({ draft: edited(3) });
    waiting[0]!.reply();
    await lets();
    expect(asked("cycle")).toHaveLength(1);
    useDesign.setState({ draft: edited(4) });
    asked("look")[1]!.reply();
    await lets();
    asked("cycle")[0]!.reply();
    await lets();
    expect(shown()).toEqual({ here: 4, judged: 3, of: 4 });
  });

  it("a pose that comes late is not drawn over a newer whole answer", async () => {
    useDesign.setState({ draft: edited(5) });
    useDesign.setState({ draft: null, document: edited(6) });
    asked("cycle")[0]!.reply();
    await lets();
    asked("look")[0]!.reply();
    await lets();
    expect(shown()).toEqual({ here: 6, judged: 6, of: 6 });
  });

  it("a pose that comes late does not take the place of an edit that waits for its answer", async () => {
    await lets(260);
    useDesign.setState({ document: edited(10) });
    useDesign.setState({ draft: edited(11) });
    useDesign.setState({ draft: null, document: edited(12) });
    asked("look")[0]!.reply();
    await lets();
    asked("cycle")[0]!.reply();
    await lets();
    expect(asked("cycle").map(({ document }) => document.axle.mass)).toEqual([10, 12]);
  });

  it("a pose that can't be had leaves it to the whole answer to say why", async () => {
    useDesign.setState({ draft: edited(7) });
    waiting[0]!.reply(422);
    await lets(90);
    asked("cycle")[0]!.reply(422);
    await lets();
    expect(useSolver.getState().refusal).not.toBeNull();
    expect(shown().of).toBe(1);
  });
});

it("an edit that no hand is at is asked about whole", () => {
  useDesign.setState({ document: edited(8) });
  expect(waiting.map(({ url }) => url)).toEqual(["/api/cycle"]);
});
