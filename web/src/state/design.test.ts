import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import rear from "../../../server/builds/demo/fell-tender-rear.json";
import { type Document, spotsOf, type Point, withMount } from "../document/document";
import { useDesign } from "./design";
import { keepHere } from "./keep";
import { forgetOutbox, useOutbox } from "./outbox";
import { useSaid } from "./said";

const original = rear as unknown as Document;
const raised = (by: number): Document => {
  const mount = spotsOf(original)[0]!;
  return withMount(original, mount, [mount.at[0], mount.at[1], mount.at[2] + by] as Point);
};
const revision = (number: number, document: Document) => ({
  design: 7, build: 1, build_name: "Yard truck", number, stored_at: "2026-01-01T00:00:00Z", document,
}); // prettier-ignore

type Reply = { status: number; body: unknown } | "no server";
let replies: Reply[];
const sent: { url: string; body: { base?: number; document?: Document } | null }[] = [];

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  forgetOutbox(keepHere());
  sent.length = 0;
  replies = [{ status: 200, body: revision(1, original) }];
  vi.stubGlobal("fetch", (url: string, request: { body: string | null }) => {
    sent.push({ url, body: request.body === null ? null : (JSON.parse(request.body) as { base: number }) });
    const reply = replies.shift() ?? "no server";
    if (reply === "no server") return Promise.reject(new TypeError("no server"));
    return Promise.resolve(new Response(JSON.stringify(reply.body), { status: reply.status }));
  });
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const settled = () => vi.advanceTimersByTimeAsync(1);
const state = () => useDesign.getState();

describe("an edit", () => {
  it("is sent against the revision it was made from, and let go of once stored", async () => {
    await state().open(7);
    replies = [{ status: 201, body: revision(2, raised(5)) }];
    state().edit(raised(5));
    await settled();
    expect(sent.at(-1)!.body!.base).toBe(1);
    expect(state().sync).toEqual({ state: "stored" });
    expect(state().stored!.number).toBe(2);
    expect(useOutbox.getState().waiting).toEqual([]);
  });

  it("that changes nothing is not sent", async () => {
    await state().open(7);
    state().edit(structuredClone(original));
    await settled();
    expect(sent).toHaveLength(1);
  });

  it("made while another is on its way follows it, against the newer revision", async () => {
    await state().open(7);
    replies = [
      { status: 201, body: revision(2, raised(5)) },
      { status: 201, body: revision(3, raised(9)) },
    ];
    let arrive = () => {};
    const reply = fetch;
    vi.stubGlobal("fetch", async (url: string, request: RequestInit) => {
      const answer = await reply(url, request);
      if (sent.length === 2) await new Promise<void>((resolve) => (arrive = resolve));
      return answer;
    });
    state().edit(raised(5));
    await settled();
    state().edit(raised(9));
    await settled();
    arrive();
    await settled();
    expect(sent.slice(1).map(({ body }) => body!.base)).toEqual([1, 2]);
    expect(state().stored!.number).toBe(3);
  });

  it("made after another design was opened goes out when the first one's answer has come", async () => {
    await state().open(7);
    replies = [
      { status: 201, body: revision(2, raised(5)) },
      { status: 200, body: { ...revision(1, original), design: 8 } },
      { status: 201, body: { ...revision(2, raised(3)), design: 8 } },
    ];
    let arrive = () => {};
    const reply = fetch;
    vi.stubGlobal("fetch", async (url: string, request: RequestInit) => {
      const answer = await reply(url, request);
      if (url.includes("/7/revisions")) await new Promise<void>((resolve) => (arrive = resolve));
      return answer;
    });
    state().edit(raised(5));
    await settled();
    await state().open(8);
    state().edit(raised(3));
    await settled();
    arrive();
    await settled();
    expect(sent.at(-1)!.url).toContain("/8/revisions");
    expect(state().stored!.number).toBe(2);
    expect(state().sync.state).toBe("stored");
  });

  it("is held while the server is gone and sent when it is back", async () => {
    await state().open(7);
    replies = ["no server", "no server", { status: 201, body: revision(2, raised(5)) }];
    state().edit(raised(5));
    await settled();
    expect(state().sync.state).toBe("held");
    expect(useOutbox.getState().waiting.map((one) => one.queue)).toEqual(["design 7"]);
    expect(state().document).toEqual(raised(5));
    await vi.advanceTimersByTimeAsync(5000);
    expect(state().sync.state).toBe("stored");
    expect(state().stored!.number).toBe(2);
  });

  it("that is refused falls back to what is stored and says why", async () => {
    await state().open(7);
    replies = [{ status: 422, body: { message: "links[0]: both ends are at one point", faults: [] } }];
    state().edit(raised(5));
    await settled();
    expect(state().sync).toEqual({ state: "refused", why: "links[0]: both ends are at one point" });
    expect(state().document).toEqual(original);
    expect(useOutbox.getState().waiting).toEqual([]);
  });

  describe("made while nobody could check it", () => {
    const named = (name: string, document = original): Document => ({ ...document, name });
    const refusal: Reply = { status: 422, body: { message: "a name of that kind is not taken", faults: [] } };

    beforeEach(async () => {
      await state().open(7);
      useSaid.getState().read();
      replies = ["no server", "no server", "no server"];
      state().edit(raised(5));
      await settled();
    });
    const said = () => useSaid.getState().said?.words;

    it("is stored like any other once it is taken", async () => {
      state().editUnchecked(named("odd", raised(5)));
      replies = [
        { status: 201, body: revision(2, raised(5)) },
        { status: 201, body: revision(3, named("odd", raised(5))) },
      ];
      await vi.advanceTimersByTimeAsync(5000);
      expect(sent.slice(-2).map(({ body }) => [body!.base, body!.document!.name])).toEqual([
        [1, original.name],
        [2, "odd"],
      ]);
      expect(state().sync.state).toBe("stored");
      expect(state().stored!.number).toBe(3);
      expect(said()).toBeUndefined();
    });

    it("is let go of alone where it is refused, and said", async () => {
      state().editUnchecked(named("odd", raised(5)));
      state().edit(named("odd", raised(9)));
      replies = [
        { status: 201, body: revision(2, raised(5)) },
        refusal,
        { status: 201, body: revision(3, raised(9)) },
      ];
      await vi.advanceTimersByTimeAsync(5000);
      expect(sent.at(-1)!.body).toMatchObject({ base: 2, document: raised(9) });
      expect(state().document).toEqual(raised(9));
      expect(state().sync.state).toBe("stored");
      expect(said()).toContain("a name of that kind is not taken");
      expect(useOutbox.getState().waiting).toEqual([]);
    });

    it("and mended afterwards goes on as mended", async () => {
      state().editUnchecked(named("odd", raised(5)));
      state().editUnchecked(named("even", raised(5)));
      replies = [
        { status: 201, body: revision(2, raised(5)) },
        refusal,
        { status: 201, body: revision(3, named("even", raised(5))) },
      ];
      await vi.advanceTimersByTimeAsync(5000);
      expect(sent.at(-1)!.body).toMatchObject({ base: 2, document: { name: "even" } });
      expect(state().document).toEqual(named("even", raised(5)));
    });

    it("and taken back afterwards is taken back", async () => {
      state().editUnchecked(named("odd", raised(5)));
      state().undo();
      replies = [{ status: 201, body: revision(2, raised(5)) }, refusal, { status: 201, body: revision(3, raised(5)) }];
      await vi.advanceTimersByTimeAsync(5000);
      expect(state().document).toEqual(raised(5));
      expect(state().sync.state).toBe("stored");
    }); // prettier-ignore

    it("is said by the next page where this one had gone when it was refused", async () => {
      state().editUnchecked(named("odd", raised(5)));
      state().edit(named("odd", raised(9)));
      replies = [{ status: 200, body: { ...revision(1, original), design: 8 } }];
      await state().open(8); // another design: what becomes of this one's edits is heard of later
      replies = [{ status: 201, body: revision(2, raised(5)) }, refusal, { status: 201, body: revision(3, raised(9)) }];
      await vi.advanceTimersByTimeAsync(5000);
      expect(said()).toBeUndefined();
      replies = [{ status: 200, body: revision(3, raised(9)) }];
      await state().open(7);
      expect(said()).toContain("a name of that kind is not taken");
      expect(state().document).toEqual(raised(9));
      expect(state().sync.state).toBe("stored");
      await settled();
      expect(useOutbox.getState().waiting).toEqual([]);
    }); // prettier-ignore
  });

  it("in conflict waits, with both at hand, until one is chosen", async () => {
    await state().open(7);
    replies = [{ status: 409, body: { message: "newer", newest: revision(2, raised(1)) } }];
    state().edit(raised(5));
    await settled();
    expect(state().sync.state).toBe("conflict");
    expect(state().document).toEqual(raised(5));
    replies = [{ status: 201, body: revision(3, raised(5)) }];
    state().keepMine();
    await settled();
    expect(sent.at(-1)!.body!.base).toBe(2);
    expect(state().stored!.number).toBe(3);
  });

  it("of a design that was deleted is stored once the design is brought back", async () => {
    await state().open(7);
    history.replaceState(null, "", "/designs/7/links");
    replies = [{ status: 410, body: { message: "Front was deleted." } }];
    state().edit(raised(5));
    await settled();
    expect(state().sync.state).toBe("gone");
    replies = [
      { status: 200, body: revision(2, original) },
      { status: 201, body: revision(3, raised(5)) },
    ];
    await state().bringBack();
    await settled();
    expect(state().sync).toEqual({ state: "stored" });
    expect(sent.at(-1)!.body).toMatchObject({ base: 2, document: raised(5) });
  });

  it("left behind by an older page is taken up again against its own base", async () => {
    localStorage.setItem("oak-lever.held.7", JSON.stringify({ base: 1, document: raised(5) }));
    replies = [
      { status: 200, body: revision(1, original) },
      { status: 201, body: revision(2, raised(5)) },
    ];
    await state().open(7);
    await settled();
    expect(state().document).toEqual(raised(5));
    expect(state().stored!.number).toBe(2);
    expect(localStorage.getItem("oak-lever.held.7")).toBeNull();
  });
});

describe("undo and redo", () => {
  it("outlive a reload", async () => {
    await state().open(7);
    replies = [{ status: 201, body: revision(2, raised(5)) }];
    state().edit(raised(5));
    await settled();
    replies = [
      { status: 200, body: revision(2, raised(5)) },
      { status: 201, body: revision(3, original) },
    ];
    await state().open(7);
    expect(state().past).toHaveLength(1);
    state().undo();
    await settled();
    expect(state().document).toEqual(original);
    expect(state().future).toHaveLength(1);
    replies = [{ status: 201, body: revision(4, raised(5)) }];
    state().redo();
    await settled();
    expect(state().document).toEqual(raised(5));
  });

  it("let go of a step whose subject another took away", async () => {
    await state().open(7);
    replies = [{ status: 201, body: revision(2, raised(5)) }];
    state().edit(raised(5));
    await settled();
    useDesign.setState({ document: { ...original, links: [] } });
    state().undo();
    expect(state().document!.links).toEqual([]);
    expect(state().past).toEqual([]);
  });

  it("go back and forth, each step stored", async () => {
    await state().open(7);
    replies = [2, 3, 4].map((n) => ({ status: 201, body: revision(n, n === 3 ? original : raised(5)) }));
    state().edit(raised(5));
    await settled();
    state().undo();
    expect(state().document).toEqual(original);
    await settled();
    state().redo();
    expect(state().document).toEqual(raised(5));
    await settled();
    expect(state().stored!.number).toBe(4);
    expect(state().future).toEqual([]);
  });
});

describe("a drag", () => {
  it("keeps a draft that is drawn with its figures, or after a moment without them", async () => {
    await state().open(7);
    state().preview(raised(2));
    expect(state().document).toEqual(original);
    await vi.advanceTimersByTimeAsync(60);
    expect(state().document).toEqual(raised(2));
    state().preview(raised(3));
    state().draw(raised(3));
    expect(state().document).toEqual(raised(3));
    expect(sent).toHaveLength(1);
  });
});

describe("what could not be drawn", () => {
  it("is gone back from to the last that could", async () => {
    await state().open(7);
    useDesign.setState({ drawn: state().document });
    replies = [
      { status: 201, body: revision(2, raised(5)) },
      { status: 201, body: revision(3, original) },
    ];
    state().edit(raised(5));
    await settled();
    expect(await state().goBack()).toBe(true);
    await settled();
    expect(state().document).toEqual(original);
    expect(sent.at(-1)!.body!.document).toEqual(original);
  });

  it("after a reload, by the steps of this device and then by the revisions", async () => {
    replies = [{ status: 200, body: revision(3, raised(9)) }];
    await state().open(7);
    replies = [
      { status: 200, body: revision(2, raised(5)) },
      { status: 201, body: revision(4, raised(5)) },
    ];
    expect(await state().goBack()).toBe(true);
    await settled();
    expect(state().document).toEqual(raised(5));
    expect(sent.at(-2)!.url).toBe("/api/designs/7/revisions/2");
    replies = [{ status: 200, body: revision(1, original) }];
    await state().open(8);
    useDesign.setState({ past: [] });
    expect(await state().goBack()).toBe(false);
  });

  it("and too much to take in is refused, not sent for ever", async () => {
    await state().open(7);
    replies = [{ status: 413, body: { message: "That is 3.0 MB; 2 MB are taken at most.", faults: [] } }];
    state().edit(raised(5));
    await settled();
    expect(state().sync).toEqual({ state: "refused", why: "That is 3.0 MB; 2 MB are taken at most." });
    expect(state().document).toEqual(original);
    expect(useOutbox.getState().waiting).toEqual([]);
  });
});
