/** Joints, steels, tubes and springs of this design and of the shop: kept for all builds, saved as a file, brought in. */

import { useState } from "react";
import { FileTrigger } from "react-aria-components";

import type { Document } from "../../document/document";
import { EditorBox } from "../../panels/EditorBox";
import { type Catalog, catalogIn, catalogOf, merged, together, useCatalog } from "../../state/catalog";
import { useTaking } from "../../state/room";
import { Button, Trouble } from "../../ui/controls";
import { giveText, plainName } from "../../ui/giving";

const many = (count: number, one: string) => `${count} ${one}${count === 1 ? "" : "s"}`;

const counted = ({ joints, materials, tubes, springs }: Catalog): string =>
  [
    many(Object.keys(joints).length, "joint"),
    many(Object.keys(materials).length, "steel"),
    many(tubes.length, "tube"),
    many(springs.length, "spring"),
  ].join(", ");

/** Bringing a catalog into the open design, and what came of it in words. */
function useBringing(document: Document) {
  const { why, setWhy, take } = useTaking();
  const { shop, keep } = useCatalog();
  const [said, setSaid] = useState("");
  const bring = async (catalog: Catalog | string) => {
    setSaid("");
    if (typeof catalog === "string") {
      setWhy(catalog);
      return;
    }
    const { added, kept } = merged(document, catalog);
    if (added.length > 0 && !(await take((now) => merged(now, catalog).document))) return;
    setWhy(null);
    const sizes = sizesNewTo(shop, catalog);
    if (sizes.length > 0) keep(shop ? together(shop, catalog) : catalog);
    const stays = kept.length > 0 ? ` As they are here stay: ${kept.join(", ")}.` : "";
    const news = [...added, ...sizes];
    setSaid(`${news.length > 0 ? `Brought in: ${news.join(", ")}.` : "Nothing in it is new here."}${stays}`);
  };
  return { why, said, setSaid, bring };
}

/** Tubes and springs that the shop does not keep yet: they are the shop's, no design's own. */
function sizesNewTo(shop: Catalog | null, catalog: Catalog): string[] {
  const now = shop ? together(shop, catalog) : catalog;
  return (["tubes", "springs"] as const).flatMap((kind) => {
    const more = now[kind].length - (shop?.[kind].length ?? 0);
    return more > 0 ? [many(more, kind.slice(0, -1))] : [];
  });
}

export function ShopCatalog({ document }: { document: Document }) {
  const { shop, keep } = useCatalog();
  const { why, said, setSaid, bring } = useBringing(document);
  const own = catalogOf(document);
  const choose = async (files: FileList | null) => {
    const file = files?.[0];
    if (file) await bring(catalogIn(await file.text()));
  };
  const save = () =>
    giveText(
      `${JSON.stringify(own, null, 1)}\n`,
      "application/json",
      `${plainName(document.name)}-catalog.json`,
    );
  return (
    <EditorBox>
      <h2>The shop’s catalog</h2>
      <p className="quiet">
        What this design has: {counted(own)}. Kept on this device for all builds:{" "}
        {shop ? counted(shop) : "none yet"}. What a maker says of a part is for its maker to say: check it.
      </p>
      <div className="row">
        <Button
          onPress={() => {
            keep(shop ? together(own, shop) : own);
            setSaid("Kept for all builds.");
          }}
        >
          Keep these for all builds
        </Button>
        <Button isDisabled={shop === null} onPress={() => void bring(shop!)}>
          Bring in what is kept
        </Button>
        <Button onPress={save}>Save as a file</Button>
        <FileTrigger acceptedFileTypes={[".json"]} onSelect={(list) => void choose(list)}>
          <Button>Bring in a file</Button>
        </FileTrigger>
      </div>
      {said !== "" && <p role="status">{said}</p>}
      {why !== null && <Trouble role="alert">{why}</Trouble>}
    </EditorBox>
  );
}
