import { afterEach, describe, expect, it } from "vitest";
import { type Document } from "../../document/document";
import { button, find, pick, press, said, settle } from "../../testing/screen";
import { lastOf, ok } from "../../testing/server";
import { Bars } from "./Bars";
import { Loads } from "./Loads";
import { bracketAt, withTube, tubeOf } from "./making";
import { catalogIn, catalogOf, merged, together, useCatalog } from "../../state/catalog";
import { sprung } from "../corners/SpringOfShop";
import { ShopCatalog } from "./ShopCatalog";
import { withPlateSteel } from "./Steel";
import {
  design,
  TUBE_SPRING,
  spot,
  open,
  area,
  left,
  now,
  LOADS,
  CUT,
  leavePage,
} from "../../testing/cutting";

afterEach(left);

describe("the shop's catalog", () => {
  const rod = { name: "Rod end", limit: 28, give: 0 };
  const file = (joints: object, materials: object = {}) =>
    JSON.stringify({ format: "oak-lever-catalog", version: 1, joints, materials });

  it("reads a file of its own kind alone", () => {
    expect(catalogIn("{")).toContain("not JSON");
    expect(catalogIn("[]")).toContain("no catalog");
    expect(catalogIn('{"format":"oak-lever-design"}')).toContain("no catalog");
    expect(catalogIn(file({}).replace('"version":1', '"version":2'))).toContain("later version");
    expect(catalogIn(file([]))).toContain("tables of entries");
    expect(catalogIn(file({ rod }))).toMatchObject({ joints: { rod }, tubes: [], springs: [] });
    const more = (sizes: object) => JSON.stringify({ ...(JSON.parse(file({})) as object), ...sizes });
    expect(catalogIn(more({ tubes: [{ diameter: 50, wall: 26 }] }))).toContain("a wall of no more than half");
    expect(catalogIn(more({ tubes: {} }))).toContain("must be a list");
    expect(catalogIn(more({ springs: [{ rate: 0, solid: 200, diameter: 64 }] }))).toContain("a rate");
    expect(catalogIn(more({ springs: [TUBE_SPRING] }))).toMatchObject({ springs: [TUBE_SPRING] });
  });

  it("adds what a design has not, and leaves what it has otherwise", () => {
    const own = { ...design, joints: { rod, same: rod } } as unknown as Document;
    const catalog = catalogIn(file({ rod: { ...rod, limit: 20 }, same: rod, other: rod }, { steel: {} }));
    const found = merged(own, catalog as never);
    expect(found.added).toEqual(["other", "steel"]);
    expect(found.kept).toEqual(["rod"]);
    expect(found.document.joints!["rod"]!.limit).toBe(28);
    expect(merged(design, catalogIn(file({})) as never).document).toEqual(design);
  });

  it("keeps a design's entries for all builds, and brings them into another", async () => {
    useCatalog.setState({ shop: null });
    open({}, { ...design, joints: { rod } });
    await area(<ShopCatalog document={now()} />);
    expect(said()).toContain("1 joint, 0 steels, ");
    expect(button("Bring in what is kept").disabled).toBe(true);
    await press("Keep these for all builds");
    leavePage();
    open({});
    await area(<ShopCatalog document={now()} />);
    await press("Bring in what is kept");
    await settle();
    expect(now().joints).toMatchObject({ rod });
    expect(said()).toContain("Brought in: rod.");
    leavePage();
    await area(<ShopCatalog document={now()} />);
    await press("Bring in what is kept");
    await settle();
    expect(said()).toContain("Nothing in it is new here.");
    useCatalog.setState({ shop: null });
  });
});

describe("tubes and springs of the shop", () => {
  const dom = { name: "Drawn", yield: 480, modulus: 205000, density: 7850 };
  const shop = {
    format: "oak-lever-catalog" as const, version: 1 as const, joints: {}, materials: { dom },
    tubes: [{ diameter: 63.5, wall: 6.35, material: "dom" }, { diameter: 50.8, wall: 4.78 }], springs: [TUBE_SPRING],
  }; // prettier-ignore
  afterEach(() => useCatalog.setState({ shop: null }));

  it("are those of a design, each once, and stay when another catalog comes beside them", () => {
    const own = withTube(design, "lower-left", { diameter: 50.8, wall: 4.78 });
    const kept = catalogOf(own);
    expect(kept.tubes.filter(({ wall }) => wall === 4.78)).toHaveLength(1);
    expect(kept.springs.length).toBeGreaterThan(0);
    const both = together(kept, shop);
    expect(both.tubes).toEqual(expect.arrayContaining([...kept.tubes, ...shop.tubes]));
    expect(together(both, shop)).toEqual(both);
  });

  it("a tube is taken with its steel, for the mirror image too", async () => {
    useCatalog.setState({ shop });
    open({ "POST /api/cut": () => ok(CUT) });
    await area(<Bars id={7} document={design} units="mm" />);
    await settle();
    await press(find("[data-bar=lower-left]").textContent);
    await pick("A tube of the shop’s catalog", "64 mm by 6 mm, dom");
    await settle();
    expect(tubeOf(now(), "lower-right")).toMatchObject({ diameter: 63.5, wall: 6.35, material: "dom" });
    expect(now().materials!["dom"]).toEqual(dom);
  });

  it("a common steel is taken for a tube, and for a bracket and its twin, by its textbook’s figures", async () => {
    const drawn = { name: "Drawn mild", yield: 480, modulus: 205000, density: 7850 };
    open({ "POST /api/cut": () => ok({ ...CUT, steels: { drawn } }) });
    await area(<Bars id={7} document={design} units="mm" />);
    await press(find("[data-bar=lower-left]").textContent);
    expect(said()).toContain("Its steel is guessed");
    await pick("Steel", "Drawn mild, yields at 480 MPa");
    await settle();
    expect(tubeOf(now(), "lower-right").material).toBe("drawn");
    expect(now().materials).toMatchObject({ drawn });
    const plates = ["lower-left.axle", "lower-right.axle"].map((name, n) =>
      bracketAt(spot(name), "tube", `b${n}`),
    );
    const then = withPlateSteel({ ...design, brackets: plates }, plates[0]!, "drawn");
    expect(then.brackets!.map(({ material }) => material)).toEqual(["drawn", "drawn"]);
  });

  it("a spring goes on its shock with its width, its preload kept", () => {
    const shock = { id: "a", diameter: 70, spring: { rate: 30, preload: 12, solid: 150 } };
    expect(sprung(shock as never, TUBE_SPRING)).toEqual({
      id: "a", diameter: 64, spring: { rate: 40, preload: 12, solid: 220 },
    }); // prettier-ignore
  });

  it("of a file are kept by the shop, and the lightest of its tubes is what is asked for", async () => {
    useCatalog.setState({ shop });
    const asked = open({
      "POST /api/loads": () => ok(LOADS),
      "POST /api/loads/tube": () => ok(null),
    });
    await area(<Loads id={7} document={design} units="in16" />);
    await press("Lower left link landing on full bump0.4");
    await settle();
    expect(said()).toContain("No tube of the shop’s catalog, of this part’s steel, meets every case");
    expect(lastOf(asked, "POST /api/loads/tube")["tubes"]).toEqual([
      { diameter: 63.5, wall: 6.35 },
      { diameter: 50.8, wall: 4.78 },
    ]);
  });
});
