/** Colors and type. Two themes as custom properties, so that a change of theme redraws nothing. */

import { createGlobalStyle } from "styled-components";

import { onPaper } from "./printing";

export const GlobalStyle = createGlobalStyle`
  :root {
    color-scheme: light;
    --paper: #f5f2ea; --sheet: #fcfaf5; --ink: #22262b; --quiet: #575b5e; --hair: #c9c3b4; --line: #8d8878;
    --accent: #1c4f9c; --accent-soft: #dde6f4; --on-accent: #ffffff;
    --stop: #9c1f1f; --stop-soft: #f6e0dc; --steel: #e6e2d6; --steel-deep: #cfcabb; --rubber: #dcd8cd; --rubber-ink: #77725f; --tire: #6b6c6a;
    --far: #9b968a; --ghost: #b3ac9b;
    --touch: 2.25rem;
  }
  :root[data-theme="dark"] {
    color-scheme: dark;
    --paper: #17191b; --sheet: #1e2124; --ink: #ece8de; --quiet: #aeb0aa; --hair: #3a3e41; --line: #74787a;
    --accent: #8fbcff; --accent-soft: #24344d; --on-accent: #10151c;
    --stop: #ff9d8f; --stop-soft: #472522; --steel: #33383c; --steel-deep: #454b50; --rubber: #2a2d30; --rubber-ink: #8b8e8d; --tire: #45494c;
    --far: #686c6e; --ghost: #55595b;
  }
  @media (pointer: coarse) { :root { --touch: 2.75rem; } }
  * { box-sizing: border-box; }
  html, body, #root { height: 100%; margin: 0; }
  /* sizes are given in rem: a larger screen stands farther away, and gets larger type with its larger drawing */
  @media (min-width: 1600px) and (min-height: 900px) { html { font-size: 118.75%; } }
  @media (min-width: 2300px) and (min-height: 1300px) { html { font-size: 150%; } }
  body {
    background: var(--paper); color: var(--ink);
    font: 400 0.9375rem/1.35 "IBM Plex Sans Condensed", "Arial Narrow", sans-serif;
    -webkit-font-smoothing: antialiased;
  }
  h1, h2, h3, p { margin: 0; font-weight: 400; }
  button, input, select { font: inherit; color: inherit; }
  :focus-visible { outline: 3px solid var(--accent); outline-offset: 2px; }
  ${onPaper}
  @media (prefers-reduced-motion: reduce) { * { transition: none !important; animation: none !important; } }
`;
