/** The load case that is looked at, by its id: drawn on the floor, chosen in the list or by a finding. */

import { create } from "zustand";

export const useCase = create<{ id: string }>()(() => ({ id: "launch" }));
