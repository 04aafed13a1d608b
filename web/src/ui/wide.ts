/** Whether the screen is wide enough for what is chosen to stand beside the views; else it stands below them. */

import { useSyncExternalStore } from "react";

const WIDE = "(min-width: 1001px)";
const media = () => (typeof matchMedia === "function" ? matchMedia(WIDE) : null);

const watch = (changed: () => void) => {
  const asked = media();
  asked?.addEventListener("change", changed);
  return () => asked?.removeEventListener("change", changed);
};

export const isWide = () => media()?.matches ?? true;

export const useWide = () => useSyncExternalStore(watch, isWide);
