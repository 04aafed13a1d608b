/** A line of a list that opens: its mark, its name, what it is worth, and below it what it is all about. */

import type { ReactNode } from "react";

interface Given {
  /** What the line is of, and which of those, for whoever looks for it: `data-bar="lower-left"`. */
  of: string;
  id: string;
  mark: ReactNode;
  name: ReactNode;
  worth: ReactNode;
  open: boolean;
  onPress: () => void;
  children: ReactNode;
}

export function OpeningRow({ of, id, mark, name, worth, open, onPress, children }: Given) {
  return (
    <li>
      <button
        type="button"
        className="row"
        {...{ [`data-${of}`]: id }}
        aria-expanded={open}
        onClick={onPress}
      >
        {typeof mark === "string" ? <span aria-hidden="true">{mark}</span> : mark}
        <span>{name}</span>
        <span className="worth">{worth}</span>
      </button>
      {open && children}
    </li>
  );
}
