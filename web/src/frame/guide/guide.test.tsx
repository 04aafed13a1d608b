import { describe, expect, it } from "vitest";

import { button, press, said, shown, type } from "../../testing/screen";
import GuideSheet from "./GuideSheet";
import { PAGES, pageAt, pictureAt } from "./pages";

const heading = () => window.document.querySelector("article h3")!.textContent;

describe("the guide", () => {
  it("opens at the step one is in, and goes on by its own links", async () => {
    const { leave } = await shown(<GuideSheet area="cut" onClose={() => undefined} />);
    expect(heading()).toBe("Cut sheet");
    expect(said()).toContain("Support the truck on rated stands");
    await press("Next: Fit-up");
    expect(heading()).toBe("Fit-up");
    expect(button("Fit-up").getAttribute("aria-checked")).toBe("true");
    leave();
  });

  it("finds what a figure means by a word of it", async () => {
    const { leave } = await shown(<GuideSheet area="" onClose={() => undefined} />);
    expect(heading()).toBe("The screen");
    await press("What the figures mean");
    const terms = () => window.document.querySelectorAll("article dt").length;
    const all = terms();
    const field = window.document.querySelector<HTMLInputElement>("article input")!;
    await type(field, "anti-squat");
    expect(terms()).toBeGreaterThan(0);
    expect(terms()).toBeLessThan(all);
    await type(field, "no such word");
    expect(said()).toContain("No figure has “no such word”");
    leave();
  });

  it("has every picture that its pages show, and a page wherever one sends to another", () => {
    expect(PAGES.length).toBe(10);
    for (const { text } of PAGES) {
      for (const [, src] of text.matchAll(/!\[[^\]]*\]\(([^)]+)\)/g)) expect(pictureAt(src!)).not.toBe(src);
      for (const [, name, href] of text.matchAll(/\[((?:Next|Before): [^\]]+)\]\(([^)]+)\)/g))
        expect(name).toContain(PAGES.find(({ id }) => id === pageAt(href!))!.name);
    }
  });
});
