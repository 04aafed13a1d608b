import { act } from "react";
import { afterEach, describe, expect, it, vi } from "vitest";

import { useRegister, fetchRegister } from "../../api/register";
import { Mishap } from "../../frame/Mishap";
import { clear, find, pause, press, said, settle, shown, submit, type } from "../../testing/screen";
import { lastOf, ok, refused, serve } from "../../testing/server";
import { tender } from "../../testing/solved";
import { Home } from "./Home";

const design = (id: number, name: string) => ({
  id, name, end: "rear", layout: "four links", why: "", damaged: false, revision: 3, changed_at: "2026-11-24T10:00:00Z",
}); // prettier-ignore
const build = (known: string[] = [], designs = [design(7, "Tender, rear")]) => ({
  id: 3, number: 2, name: "Fell tender", notes: "Loaded", truck: known.length ? 1 : null, known, designs,
}); // prettier-ignore
const ALL = ["tire_diameter", "track", "wheelbase", "rail_underside", "rail_width"];
const revision = {
  design: 7, build: 3, build_name: "Fell tender", number: 1, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z",
  document: tender,
}; // prettier-ignore
const page = (
  builds: unknown[],
  before: number | null = null,
  notices: unknown[] = [],
  unreadable: string[] = [],
) => ok({ builds, before, notices, unreadable });
const basis = (builds: unknown[]) => ({
  "GET /api/builds": () => page(builds),
  "GET /api/builds/3": () => ok(builds[0]),
  "GET /api/designs/7": () => ok(revision),
});

async function home() {
  await shown(<Home />);
  await settle();
}

/** A file put into the build's own file field. */
async function bring(text: string) {
  const field = find<HTMLInputElement>("input[type=file]");
  const file = new File([text], "tender.json", { type: "application/json" });
  file.text = () => Promise.resolve(text);
  Object.defineProperty(field, "files", { value: [file], configurable: true });
  await act(async () => {
    field.dispatchEvent(new Event("change", { bubbles: true }));
    await pause();
  });
  await settle();
}

afterEach(() => {
  clear();
  vi.unstubAllGlobals();
});

describe("the builds", () => {
  it("stand with their designs; without any, the next step is taught", async () => {
    serve(basis([build(ALL)]));
    await home();
    expect(said()).toContain("Tender, rear");
    expect(said()).toContain("Rear axle, four links");
    expect(said()).toContain("not an approval");
    clear();
    serve(basis([]));
    await home();
    expect(said()).toContain("No builds yet");
  });

  it("say that the server is gone, and come when it is back", async () => {
    serve({ "GET /api/builds": () => "no server" });
    await home();
    expect(said()).toContain("does not answer");
    serve(basis([build(ALL)]));
    await press("Try again");
    await settle();
    expect(said()).toContain("Tender, rear");
  });

  it("are started by a name", async () => {
    const asked = serve({ ...basis([]), "POST /api/builds": () => ({ status: 201, body: build() }) });
    await home();
    await type(find<HTMLInputElement>('input[placeholder="Name of a new truck"]'), " Snow plow ");
    await submit(find<HTMLFormElement>("form"));
    await settle();
    expect(asked.find((a) => a.line === "POST /api/builds")!.body).toEqual({ name: "Snow plow", notes: "" });
    expect(said()).toContain("Fell tender");
  });

  it("come a page at a time, and are found by their words", async () => {
    const named = (id: number, name: string) => ({ ...build(), id, name, designs: [] });
    const asked = serve({
      ...basis([]),
      "GET /api/builds": () => page([named(9, "Ninth"), named(8, "Eighth")], 8),
      "GET /api/builds?before=8": () => page([named(7, "Seventh")]),
      "GET /api/builds?find=plow": () => page([named(2, "Snow plow")]),
      "GET /api/builds?find=nothing": () => page([]),
    });
    await home();
    expect(said()).not.toContain("Seventh");
    await press("Show older builds");
    await settle();
    expect(said()).toMatch(/Ninth.*Eighth.*Seventh/s);
    expect(said()).not.toContain("Show older builds");
    for (const [words, found] of [
      ["plow", "Snow plow"],
      ["nothing", "Nothing is called “nothing”"],
    ] as const) {
      await type(find<HTMLInputElement>('input[placeholder="Find a build or a design"]'), words);
      await settle();
      expect(said()).toContain(found);
      expect(said()).not.toContain("Ninth");
    }
    expect(asked.map((a) => a.line)).toContain("GET /api/builds?find=plow");
  });

  it("name those that are damaged, beside the others", async () => {
    serve({
      ...basis([build(ALL)]),
      "GET /api/builds": () => page([build(ALL)], null, [], ["build 5", "build 6"]),
    });
    await home();
    expect(find('[role="alert"]').textContent).toContain("Damaged, and left out here: build 5, build 6.");
    expect(said()).toContain("Fell tender");
  });

  it("say what the shop has to hear of its store until it is put away", async () => {
    const notices = [{ id: 4, words: "The store was damaged.", at: "2026-11-24T10:00:00Z" }];
    serve({
      ...basis([]),
      "GET /api/builds": () => page([], null, notices),
      "DELETE /api/notices/4": () => ({ status: 204, body: null }),
    });
    await home();
    expect(find('[role="alert"]').textContent).toContain("The store was damaged.");
    await press("Put it away");
    await settle();
    expect(said()).not.toContain("The store was damaged.");
  });

  it("show a design that cannot be read, and nothing to be done with it", async () => {
    serve(
      basis([build(ALL, [{ ...design(7, "Tender, rear"), damaged: true, end: null as never, layout: "" }])]),
    );
    await home();
    expect(said()).toContain("the store is damaged there");
    expect(document.querySelector('a[href="/designs/7/links"]')).toBeNull();
    expect(document.querySelector('[aria-label="Delete Tender, rear"]')).toBeNull();
  });

  it("a design is deleted and brought back", async () => {
    const asked = serve({
      ...basis([build(ALL)]),
      "DELETE /api/designs/7?base=3": () => ({ status: 204, body: null }),
      "POST /api/designs/7/restore": () => ok(revision),
    });
    await home();
    await press("Delete Tender, rear");
    await settle();
    expect(said()).toContain("“Tender, rear” is deleted");
    await press("Bring it back");
    await settle();
    expect(asked.map((a) => a.line)).toContain("POST /api/designs/7/restore");
    expect(said()).not.toContain("is deleted");
  });

  it("are renamed, deleted and brought back whole", async () => {
    const asked = serve({
      ...basis([build(ALL)]),
      "PUT /api/builds/3": (body) => ok({ ...build(ALL), name: body["name"] }),
      "DELETE /api/builds/3?base=2": () => ({ status: 204, body: null }),
      "POST /api/builds/3/restore": () => ok(build(ALL)),
    });
    await home();
    await press("Rename the build Fell tender");
    await type(find<HTMLInputElement>('input[aria-label="Name"]'), "Tender two");
    await submit(find<HTMLFormElement>('form[aria-label="Rename Fell tender"]'));
    await settle();
    expect(said()).toContain("Tender two");
    await press("Delete the build Tender two");
    await settle();
    expect(said()).toContain("“Tender two” is deleted");
    expect(document.querySelector("article")).toBeNull();
    await press("Bring it back");
    await settle();
    expect(asked.map((a) => a.line)).toContain("POST /api/builds/3/restore");
    expect(document.querySelector("article")).not.toBeNull();
  });

  it("have designs that are renamed, each with the reason for it", async () => {
    const why = { ...design(7, "Tender, rear"), why: "the tank is in the way" };
    const asked = serve({
      ...basis([build(ALL, [why])]),
      "PUT /api/designs/7/name": () => ok(revision),
    });
    await home();
    expect(said()).toContain("the tank is in the way");
    await press("Rename Tender, rear");
    await type(find<HTMLInputElement>('input[aria-label="Name"]'), "Shorter");
    await submit(find<HTMLFormElement>('form[aria-label="Rename Tender, rear"]'));
    await settle();
    expect(lastOf(asked, "PUT /api/designs/7/name")).toEqual({ name: "Shorter", base: 3 });
  });

  it.each([
    [[], "Nothing was deleted."],
    [["build 5"], "Nothing else lies here."],
  ])("and an empty bin says so, unless something in it is damaged: %j", async (unreadable, words) => {
    serve({ ...basis([build(ALL)]), "GET /api/bin": () => ok({ builds: [], designs: [], unreadable }) });
    await home();
    await press("Bin");
    await settle();
    expect(said()).toContain(words);
  });

  it("and what was deleted before lies in the bin", async () => {
    const bin = {
      builds: [{ id: 5, name: "Snow plow", deleted_at: "2026-11-20T10:00:00Z" }],
      designs: [{ id: 8, name: "Long upper", build: "Fell tender", deleted_at: "2026-11-21T10:00:00Z" }],
      unreadable: ["design 9"],
    };
    const asked = serve({
      ...basis([build(ALL)]),
      "GET /api/bin": () => ok(bin),
      "POST /api/designs/8/restore": () => ok(revision),
    });
    await home();
    await press("Bin");
    await settle();
    expect(said()).toContain("Design of Fell tender, deleted Nov 21, 2026");
    expect(said()).toContain("Damaged, and left out here: design 9.");
    await press("Bring it back: Long upper");
    await settle();
    expect(asked.map((a) => a.line)).toContain("POST /api/designs/8/restore");
    expect(document.querySelector('[role="dialog"]')).toBeNull();
  });

  it("a file too large for a design is refused before it is read", async () => {
    const asked = serve(basis([build(ALL)]));
    await home();
    await bring("x".repeat(1_600_000));
    expect(said()).toContain("larger than any design file");
    expect(asked.filter((a) => a.line.startsWith("POST"))).toEqual([]);
  });
});

describe("a file brought in", () => {
  const IMPORT = "POST /api/builds/3/designs";

  it("is refused with every fault", async () => {
    const faults = [
      { path: "axle.track", message: "must be more than 0" },
      { path: "", message: "odd" },
    ];
    serve({ ...basis([build(ALL)]), [IMPORT]: () => refused("no", faults) });
    await home();
    await bring("{}");
    expect(said()).toContain("tender.json was not brought in");
    expect(said()).toContain("axle.track: must be more than 0");
  });

  it("whose truck differs is asked about, and sent again with what was chosen", async () => {
    const differences = [
      { path: "vehicle.mass", words: "mass of the whole truck", unit: "kg", truck: 3100, file: 3500 },
    ];
    const asked = serve({
      ...basis([build(ALL)]),
      [IMPORT]: (body) =>
        body["take"] === null
          ? { status: 409, body: { message: "otherwise", differences } }
          : { status: 201, body: revision },
    });
    await home();
    await bring("{}");
    expect(said()).toContain("tender.json has the truck otherwise");
    await press("The truck’s mass of the whole truck");
    await press("Bring it in");
    await settle();
    expect(asked.filter((a) => a.line === IMPORT).at(-1)!.body["take"]).toEqual(["vehicle.mass"]);
    expect(said()).not.toContain("has the truck otherwise");
  });
});

describe("starting a design", () => {
  const START = "POST /api/builds/3/starts";
  const form = () => find<HTMLFormElement>('[role="dialog"] form');

  it("asks for what nobody knows yet, and sends it in millimeters", async () => {
    const asked = serve({ ...basis([build([], [])]), [START]: () => ({ status: 201, body: revision }) });
    await home();
    await press("Start a design");
    const fields = [...form().querySelectorAll("input")].filter((i) => i.type === "text");
    expect(fields).toHaveLength(5);
    await type(fields[2]!, "a lot");
    expect(said()).toContain("Type a length");
    await type(fields[2]!, "9' 2\"");
    await submit(form());
    await settle();
    expect(asked.find((a) => a.line === START)!.body).toMatchObject({
      end: "rear",
      wheelbase: 110 * 25.4,
      use: "trail",
    });
  });

  it("asks nothing that the truck knows, and says what is refused", async () => {
    const asked = serve({ ...basis([build(ALL)]), [START]: () => refused("links[0]: no length") });
    await home();
    await press("Start a design");
    expect([...form().querySelectorAll("input")].filter((i) => i.type === "text")).toHaveLength(0);
    expect(said()).toContain("are the truck’s own");
    await submit(form());
    await settle();
    expect(Object.keys(asked.find((a) => a.line === START)!.body)).not.toContain("wheelbase");
    expect(said()).toContain("no length");
  });
});

describe("what comes before everything", () => {
  it("is the register, fetched until the server answers", async () => {
    const { register } = useRegister.getState();
    useRegister.setState({ register: null, lost: false });
    serve({ "GET /api/register": () => "no server" });
    vi.useFakeTimers();
    await fetchRegister();
    expect(useRegister.getState()).toEqual({ register: null, lost: true });
    serve({ "GET /api/register": () => ok(register) });
    await vi.advanceTimersByTimeAsync(1600);
    vi.useRealTimers();
    expect(useRegister.getState()).toEqual({ register, lost: false });
  });

  it("is said where a screen can't be drawn", async () => {
    const quiet = vi.spyOn(console, "error").mockImplementation(() => undefined);
    const Broken = () => {
      throw new Error("broken");
    };
    await shown(
      <Mishap>
        <Broken />
      </Mishap>,
    );
    expect(said()).toContain("could not be drawn");
    quiet.mockRestore();
  });
});
