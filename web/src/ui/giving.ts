/** Handing a file to whoever uses the page. */

const KEPT_MS = 10_000;

/** Letters and figures of a name, with lines between: what every system takes as a file's name. */
export const plainName = (name: string): string =>
  name
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, "-")
    .replaceAll(/^-|-$/g, "");

export function give(blob: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(blob);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), KEPT_MS);
}

export const giveText = (text: string, type: string, name: string): void =>
  give(new Blob([text], { type: `${type};charset=utf-8` }), name);
