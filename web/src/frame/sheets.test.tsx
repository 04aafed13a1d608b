import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import truckFile from "../../../server/builds/demo/fell-tender-truck.json";
import { DiffersSheet } from "../areas/home/DiffersSheet";
import { button, choose, clear, find, items, key, press, said, settle, shown, type } from "../testing/screen";
import { ok, serve } from "../testing/server";
import { tender } from "../testing/solved";
import { theRegister } from "../api/register";
import { useBehind } from "../state/behind";
import { ConflictSheet } from "./ConflictSheet";
import { useDesign } from "../state/design";
import { Header } from "./Header";
import { HistorySheet } from "./HistorySheet";
import { usePreferences } from "../state/preferences";
import { SinceStrip } from "../panels/SinceStrip";
import { type Truck, useTruck } from "../state/truck";
import { FigureRow } from "../panels/TruckFigures";

const document = truckFile as unknown as Truck["document"];
const truck = (number = 1, doc = document): Truck => ({
  build: 3, number, stored_at: "2026-11-24T00:00:00Z", document: doc, overlays: { rear: {}, front: {} },
}); // prettier-ignore
const revision = {
  design: 7, build: 3, build_name: "Fell tender", number: 4, truck: 1, stored_on: 1, stored_at: "2026-11-24T10:00:00Z",
  document: tender,
}; // prettier-ignore
const field = (path: string) => find<HTMLInputElement>(`input[data-figure="${path}"]`);

beforeEach(() => {
  localStorage.clear();
  usePreferences.setState({ units: "mm", theme: "light" });
  useTruck.setState({ truck: truck(), since: null, trouble: null });
  useDesign.setState({ stored: revision, document: tender, past: [], future: [], sync: { state: "stored" } });
});
afterEach(() => {
  clear();
  vi.unstubAllGlobals();
});

function Figures() {
  const newest = useTruck((s) => s.truck);
  return (
    newest &&
    theRegister().truck.map((figure) => (
      <FigureRow key={figure.path} figure={figure} document={newest.document} units="mm" />
    ))
  );
}

describe("the truck's figures", () => {
  it("shows every figure that verdicts rest on, and where it comes from", async () => {
    const { leave } = await shown(<Figures />);
    expect(field("vehicle.cg_height").value).toBe("905 mm");
    expect(field("vehicle.mass").value).toBe("3100 kg");
    expect(find("button[aria-label], button", undefined)).toBeTruthy();
    expect(said()).toContain("Guessed");
    leave();
  });

  it("stores a figure that is typed, and refuses one that can't be read where it stands", async () => {
    const asked = serve({
      "POST /api/builds/3/truck/revisions": (body) => ok(truck(2, body["document"] as Truck["document"])),
    });
    const { leave } = await shown(<Figures />);
    await type(field("vehicle.cg_height"), "high up");
    await key(field("vehicle.cg_height"), "Enter");
    expect(said()).toContain("It stays at 905 mm");
    expect(asked).toHaveLength(0);
    await type(field("vehicle.cg_height"), "950");
    await key(field("vehicle.cg_height"), "Enter");
    await settle();
    expect((asked.at(-1)!.body["document"] as Truck["document"]).vehicle.cg_height).toBe(950);
    expect(field("vehicle.cg_height").value).toBe("950 mm");
    leave();
  });
});

describe("what a newer truck did", () => {
  it("is said once, until it is read", async () => {
    const change = {
      path: "vehicle.cg_height",
      words: "height of the center of gravity",
      unit: "mm" as const,
      truck: 905,
      file: 800,
    };
    const moved = (figure: string, name: string) => ({
      figure, name, unit: "percent" as const, before: 86, after: 97, was: "good" as const, severity: "fix" as const,
    }); // prettier-ignore
    const figures = ["a", "b", "c", "d", "e"].map((id) => moved(id, `Figure ${id}`));
    useTruck.setState({ since: { changes: [change], figures } });
    const { leave } = await shown(<SinceStrip units="mm" />);
    expect(said()).toContain("height of the center of gravity 800 mm, was 905 mm");
    expect(said()).toContain("figure a 86 % → 97 % (fix, was good)");
    expect(said()).toContain("and 1 more");
    await press("Read");
    expect(said()).not.toContain("changed since");
    leave();
  });
});

describe("the history", () => {
  const lines = [
    { number: 4, name: "x", stored_at: "2026-11-24T10:00:00Z", first: false, damaged: false, changes: [{ what: "upper frame mounts", axis: "z", by: 12.7 }] },
    { number: 3, name: "x", stored_at: "2026-11-24T09:00:00Z", first: true, damaged: false, changes: [] },
  ]; // prettier-ignore
  const build = {
    id: 3, name: "Fell tender", notes: "", truck: 1, known: [], designs: [
      { id: 8, name: "Short upper", end: "rear", damaged: false },
      { id: 9, name: "Front", end: "front", damaged: false },
    ],
  }; // prettier-ignore
  const answers = {
    "GET /api/designs/7/revisions": () => ok({ lines, before: 3 }),
    "GET /api/builds/3": () => ok(build),
    "GET /api/designs/7/revisions/3": () =>
      ok({ ...revision, number: 3, document: { ...tender, name: "Before" } }),
    "GET /api/designs/8": () => ok({ ...revision, design: 8, document: { ...tender, name: "Short upper" } }),
    "POST /api/designs/7/revisions": () => ok({ ...revision, number: 5 }),
    "POST /api/designs/7/alternatives": () => ok({ ...revision, design: 9 }),
  };
  const sheet = () => shown(<HistorySheet id={7} document={tender} units="mm" onClose={() => undefined} />);

  it("says what each revision changed, draws one behind, and goes back to one", async () => {
    serve(answers);
    const { leave } = await sheet();
    await settle();
    expect(said()).toContain("4: upper frame mounts up 13 mm");
    await press("Behind: revision 3");
    await settle();
    expect(useBehind.getState().behind).toMatchObject({ kind: "pinned", name: "revision 3" });
    await press("Go back to revision 3");
    await settle();
    expect(useDesign.getState().document!.name).toBe("Before");
    expect(button("Go back to revision 4").disabled).toBe(true);
    await press("Take away revision 3");
    expect(useBehind.getState().behind).toBeNull();
    leave();
  });

  it("goes back a page at a time, past what cannot be read", async () => {
    const older = [
      { number: 2, name: "x", stored_at: "2026-11-24T08:00:00Z", first: false, damaged: true, changes: [] },
      { number: 1, name: "x", stored_at: "2026-11-24T07:00:00Z", first: true, damaged: false, changes: [] },
    ]; // prettier-ignore
    serve({
      ...answers,
      "GET /api/designs/7/revisions?before=3": () => ok({ lines: older, before: null }),
    });
    const { leave } = await sheet();
    await settle();
    await press("Show older ones");
    await settle();
    expect(said()).toContain("2: cannot be read");
    expect(button("Go back to revision 2").disabled).toBe(true);
    expect(said()).toContain("1: first stored");
    expect(said()).not.toContain("Show older ones");
    leave();
  });

  it("draws another design of the build behind, and starts an alternative", async () => {
    const asked = serve(answers);
    const { leave } = await sheet();
    await settle();
    expect(said()).not.toContain("Front");
    await press("Draw behind");
    await settle();
    expect(useBehind.getState().behind?.name).toBe("Short upper");
    await press("Start it");
    await settle();
    expect(asked).toContainEqual(
      expect.objectContaining({
        line: "POST /api/designs/7/alternatives",
        body: expect.objectContaining({ why: "" }) as unknown,
      }),
    );
    leave();
  });

  it("says that the server is gone", async () => {
    serve({ "GET /api/designs/7/revisions": () => "no server", "GET /api/builds/3": () => "no server" });
    const { leave } = await sheet();
    await settle();
    expect(said()).toContain("does not answer");
    leave();
  });
});

describe("two edits", () => {
  it("are shown side by side, and either or both can stand", async () => {
    const upper = tender.links[2]!;
    const links = tender.links.map((l, n) =>
      n === 2 ? { ...upper, frame: { at: [774.7, 419.1, 640] } } : l,
    );
    const newest = { ...revision, number: 5, document: { ...tender, links } as unknown as typeof tender };
    useDesign.setState({ sync: { state: "conflict", newest } });
    const { leave } = await shown(<ConflictSheet newest={newest} mine={tender} units="mm" />);
    expect(said()).toContain("revision 5 meanwhile");
    expect(said()).toContain("Upper left, frame end");
    expect(said()).toContain("775 · 419 · 640");
    await press("Take theirs");
    expect(useDesign.getState().document).toBe(newest.document);
    leave();
  });
});

describe("a file with another truck", () => {
  const differences = [
    { path: "vehicle.mass", words: "mass of the whole truck", unit: "kg" as const, truck: 3100, file: 3500 },
    { path: "use", words: "use", unit: "" as const, truck: "trail", file: "desert" },
  ];
  it("asks figure by figure which stands; the truck's, unless somebody says otherwise", async () => {
    const taken: string[][] = [];
    const { leave } = await shown(
      <DiffersSheet file="rear.json" truck="Fell tender" differences={differences} onChoose={(t) => taken.push(t)} onLeave={() => undefined} />,
    ); // prettier-ignore
    expect(said()).toContain("3100 kg");
    expect(said()).toContain("Fast desert");
    await press("Bring it in");
    await press("The truck’s mass of the whole truck");
    await press("Bring it in");
    expect(taken).toEqual([[], ["vehicle.mass"]]);
    leave();
  });
});

describe("the header", () => {
  const opened = { document: tender, design: 7 };

  it("says what is stored, and undoes", async () => {
    useDesign.setState({ past: [[{ path: ["name"], from: "Before", to: tender.name }]] });
    serve({ "POST /api/designs/7/revisions": () => ok({ ...revision, number: 5 }) });
    const { leave } = await shown(<Header open={opened} onHistory={() => undefined} />);
    expect(said()).toContain("Stored, revision 4");
    expect(button("Redo").disabled).toBe(true);
    await press("Undo");
    await settle();
    expect(useDesign.getState().document!.name).toBe("Before");
    await press("Units, theme");
    await choose("Dark");
    expect(usePreferences.getState().theme).toBe("dark");
    for (const [state, words] of [["held", "held here"], ["refused", "refused"], ["gone", "Deleted"]] as const) {
      useDesign.setState({ sync: { state, why: "" } });
      await settle();
      expect(said()).toContain(words);
    } // prettier-ignore
    leave();
  });

  it("goes to other designs of the build, of this axle and of the other, staying in the area", async () => {
    const line = (id: number, name: string, end: string) => ({ id, name, end, damaged: false });
    const designs = [line(7, "Rear", "rear"), line(8, "Rear, lower", "rear"), line(9, "Front", "front")];
    const asked = serve({ "GET /api/builds/3": () => ok({ id: 3, name: "Fell tender", designs }) });
    const { leave, path } = await shown(<Header open={opened} onHistory={() => undefined} />);
    await press("Axle: rear");
    await settle();
    expect(items()).toEqual(["Front"]);
    await choose("Front");
    expect(path()).toContain("/designs/9/");
    await press("Other designs of this axle");
    await settle();
    expect(items()).toEqual(["Rear", "Rear, lower"]);
    expect(asked.map(({ line: one }) => one)).toEqual(["GET /api/builds/3", "GET /api/builds/3"]);
    leave();
  });

  it("says why the others can’t be had, and still goes to all builds", async () => {
    serve({ "GET /api/builds/3": () => "no server" });
    const { leave } = await shown(<Header open={opened} onHistory={() => undefined} />);
    await press("Build: Fell tender");
    await settle();
    expect(window.document.body.textContent).toContain("does not answer");
    expect(items()).toEqual(["All builds"]);
    leave();
  });
});
