/** What takes the mounts' place below the rear view for a while: a title, the way back, and its rows. */

import type { ReactNode } from "react";
import styled from "styled-components";

import { Button } from "../ui/controls";

const Area = styled.section`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.5rem;
  align-content: start;
  padding: 0.5rem 0.75rem;
  .top,
  .row {
    display: flex;
    justify-content: space-between;
    align-items: center;
    gap: 0.5rem;
  }
  .row > span {
    flex: 1;
  }
  h2 {
    font-size: 1.0625rem;
    font-weight: 600;
  }
  .quiet {
    color: var(--quiet);
    font-size: 0.875rem;
  }
  label,
  input {
    min-width: 0;
  }
  form {
    grid-template-columns: repeat(auto-fill, minmax(min(7.5rem, 100%), 1fr));
    gap: 0.375rem 0.5rem;
  }
`;

export function CornerPane(props: {
  label: string;
  title: string;
  busy?: boolean;
  /** What the way back is called. */
  back?: string;
  onClose: () => void;
  children: ReactNode;
}) {
  const { label, title, busy = false, back = "Back to the mounts", onClose, children } = props;
  return (
    <Area
      aria-label={label}
      aria-busy={busy}
      onKeyDown={(event) => {
        if (event.key === "Escape" && !event.defaultPrevented) onClose();
      }}
    >
      <div className="top">
        <h2>{title}</h2>
        <Button autoFocus onPress={onClose}>
          {back}
        </Button>
      </div>
      {children}
    </Area>
  );
}
