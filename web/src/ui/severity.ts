import { css } from "styled-components";

/** What is said of a figure stands out by how grave it is. */
export const saidBySeverity = css`
  .said[data-severity="stop"],
  .said[data-severity="fix"] {
    color: var(--stop);
    font-weight: 600;
  }
  .said[data-severity="consider"] {
    color: var(--ink);
    font-weight: 600;
  }
`;
