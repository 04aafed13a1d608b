/** A table handed over as a CSV file. */

import { giveText } from "../../ui/giving";

const cell = (text: string): string => (/[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

export function csvOf(name: string, rows: string[][]): void {
  const text = rows.map((row) => row.map(cell).join(",")).join("\r\n");
  giveText(text, "text/csv", name.replaceAll(/[^\w.-]+/g, "-").toLowerCase());
}
