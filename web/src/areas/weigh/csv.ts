/** A table handed over as a CSV file. */

const cell = (text: string): string => (/[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

export function csvOf(name: string, rows: string[][]): void {
  const text = rows.map((row) => row.map(cell).join(",")).join("\r\n");
  const url = URL.createObjectURL(new Blob([text], { type: "text/csv;charset=utf-8" }));
  const link = window.document.createElement("a");
  link.href = url;
  link.download = name.replaceAll(/[^\w.-]+/g, "-").toLowerCase();
  link.click();
  URL.revokeObjectURL(url);
}
