/** What tubes and sheets this shop has. */

import { create } from "zustand";

import type { Document } from "../document/document";

/** What this shop has, the same sheet and tube for each size that is wanted; kept on this device. */
export interface Stock {
  tube: number;
  tubes: number;
  long: number;
  wide: number;
  sheets: number;
  kerf: number;
  gap: number;
}

const USUAL: Stock = { tube: 6096, tubes: 2, long: 1219.2, wide: 609.6, sheets: 1, kerf: 3, gap: 6 };

const kept = (): Stock => {
  try {
    return { ...USUAL, ...(JSON.parse(localStorage.getItem("stock") ?? "{}") as Partial<Stock>) };
  } catch {
    return USUAL;
  }
};

export const useStock = create<{ stock: Stock; set: (stock: Stock) => void }>()((set) => ({
  stock: kept(),
  set: (stock) => {
    localStorage.setItem("stock", JSON.stringify(stock));
    set({ stock });
  },
}));

const SIZES = (document: Document): [number, number][] => {
  const every = [...document.links, ...(document.lateral ? [document.lateral] : [])];
  const tubes = every.map((part) => (part as { tube?: { diameter?: number; wall?: number } | null }).tube);
  const sizes = tubes.map((tube) => [tube?.diameter ?? 50.8, tube?.wall ?? 6.35] as [number, number]);
  return sizes.filter(([d, w], n) => sizes.findIndex(([a, b]) => a === d && b === w) === n);
};

/** The stock as its file has it. */
export function stockFile(document: Document, stock: Stock) {
  const thick = [...new Set((document.brackets ?? []).map(({ plate }) => plate))];
  return {
    tubes: SIZES(document).map(([diameter, wall]) => ({
      diameter,
      wall,
      length: stock.tube,
      count: stock.tubes,
    })),
    kerf: stock.kerf,
    plates: thick.map((thickness) => ({
      thickness,
      size: [stock.long, stock.wide] as [number, number],
      count: stock.sheets,
    })),
    gap: stock.gap,
  };
}
