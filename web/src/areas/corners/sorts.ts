/** What the sorts of shock are called. */

import type { sortOf } from "../../document/corners";

export const SORTS: Record<ReturnType<typeof sortOf>, string> = {
  coilover: "Coilover",
  damper: "Plain damper",
  bypass: "Bypass shock",
  air_shock: "Air shock",
  coil: "Coil on its own seats",
  air: "Air spring",
};
