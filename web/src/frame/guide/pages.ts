/** The guide's pages, in the order of the work: the same that stand in the documents, read where one works. */

import corners from "../../../../docs/guide/corners.md?raw";
import cutSheet from "../../../../docs/guide/cut-sheet.md?raw";
import cycle from "../../../../docs/guide/cycle.md?raw";
import fitUp from "../../../../docs/guide/fit-up.md?raw";
import kept from "../../../../docs/guide/kept.md?raw";
import links from "../../../../docs/guide/links.md?raw";
import room from "../../../../docs/guide/room.md?raw";
import screen from "../../../../docs/guide/screen.md?raw";
import truck from "../../../../docs/guide/truck.md?raw";
import weighUp from "../../../../docs/guide/weigh-up.md?raw";

const PICTURES: Record<string, string> = import.meta.glob("../../../../docs/screenshots/*.png", {
  query: "?url",
  import: "default",
  eager: true,
});

interface Page {
  /** Its file's name, and the area's where it is of one. */
  id: string;
  area?: string;
  name: string;
  text: string;
}

/** The page's own heading is its name, which stands over it already. */
const page = (id: string, text: string, area?: string): Page => {
  const [heading, ...rest] = text.split("\n");
  return { id, name: heading!.replace(/^# /, ""), text: rest.join("\n"), ...(area && { area }) };
};

export const PAGES: readonly Page[] = [
  page("screen", screen),
  page("truck", truck, "truck"),
  page("room", room, "room"),
  page("links", links, "links"),
  page("cycle", cycle, "cycle"),
  page("corners", corners, "corners"),
  page("weigh-up", weighUp, "weigh"),
  page("cut-sheet", cutSheet, "cut"),
  page("fit-up", fitUp, "fit-up"),
  page("kept", kept),
];

/** The page that a link of the guide goes to; null for what is outside of it. */
export const pageAt = (href: string): string | null => {
  const id = href.replace(/\.md$/, "");
  return PAGES.some((one) => one.id === id) ? id : null;
};

/** Where the page has a picture of the guide. */
export const pictureAt = (src: string): string =>
  PICTURES[`../../../../docs/${src.replace(/^(\.\.\/)+/, "")}`] ?? src;
