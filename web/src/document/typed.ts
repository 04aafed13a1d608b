/** Figures of a part as they are typed: each as it stands, and what typing it changes. */

/** A figure to type: its name, as it stands, and the part with what was typed in it, or why it can't be read. */
export interface Field<T> {
  key: string;
  words: string;
  text: string;
  /** A line for each point. */
  long?: boolean;
  put: (part: T, text: string) => T | string;
}

/** A field of one number. */
export function numeric<T>(
  key: string,
  words: string,
  text: string,
  read: (text: string) => number | string,
  set: (part: T, value: number) => T,
): Field<T> {
  return {
    key,
    words,
    text,
    put: (part, typed) => {
      const value = read(typed);
      return typeof value === "string" ? value : set(part, value);
    },
  };
}

export const number = (text: string): number | string => {
  const value = Number(text.trim().replaceAll(/[−–]/g, "-"));
  return text.trim() === "" || !Number.isFinite(value) ? "Type a number." : value;
};

/** All that was typed, put in one after the other; or the first that can't be read, by its name. */
export function typedIn<T>(part: T, fields: Field<T>[], texts: Record<string, string>): T | string {
  let now = part;
  for (const field of fields) {
    const text = texts[field.key];
    if (text === undefined || text === field.text) continue;
    const next = field.put(now, text);
    if (typeof next === "string") return `${field.words}: ${next}`;
    now = next;
  }
  return now;
}
