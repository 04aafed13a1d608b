/** A page on paper is the page alone, and light. It is laid out as on a tablet: a sheet is about as wide. */

import { css } from "styled-components";

/** From now on whatever is printed is light, and after it as it was. */
export function printsPages(): void {
  const root = document.documentElement;
  let theme: string | undefined;
  addEventListener("beforeprint", () => {
    theme = root.dataset["theme"];
    root.dataset["theme"] = "light";
  });
  addEventListener("afterprint", () => {
    if (theme !== undefined) root.dataset["theme"] = theme;
  });
}

/** Calls whenever the page is laid out for paper, and when it is for the screen again; what it gives back ends that. */
export function onPaperAndBack(turned: (paper: boolean) => void): () => void {
  const paper = typeof matchMedia === "function" ? matchMedia("print") : null;
  const turn = ({ matches }: { matches: boolean }) => turned(matches);
  paper?.addEventListener("change", turn);
  return () => paper?.removeEventListener("change", turn);
}

/** What is not the page goes; of a sheet that is open over the page, the sheet alone. */
export const onPaper = css`
  @media print {
    @page {
      margin: 8mm;
    }
    :root {
      --paper: #fff;
      --sheet: #fff;
    }
    html,
    body,
    #root {
      height: auto;
    }
    body:has(> div [role="dialog"]) #root,
    nav,
    header .right,
    [data-testid="next"],
    [role="tablist"],
    .tools,
    .strip {
      display: none !important;
    }
    header button {
      border: 0 !important;
      padding: 0 0.25rem !important;
    }
    svg {
      print-color-adjust: exact;
    }
  }
`;
